import type { CapacitorConfig } from "@capacitor/cli";

const config: CapacitorConfig = {
  appId: "example.maresia.kiosk",
  appName: "kiosk",
  webDir: "www",
};

export default config;
