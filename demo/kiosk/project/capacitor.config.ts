import type { CapacitorConfig } from "@capacitor/cli";

const config: CapacitorConfig = {
  appId: "example.maresia.kiosk",
  appName: "kiosk",
  webDir: "www",
  server: { url: "http://192.168.4.20:8100", cleartext: true },
};

export default config;
