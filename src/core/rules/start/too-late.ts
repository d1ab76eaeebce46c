import { findingsFromFaults } from "../from-faults.js";
import { defineRule } from "../rule.js";
import { startExample } from "./examples.js";

export const tooLate = defineRule({
  name: "start/too-late",
  severity: "error",
  title: "An SDK is used before it is started, or started too late",
  looksAt:
    "Where in the life of the app the start call runs, against the moment that the sheet asks for (at: launch, at: firstScreen); the calls that a sheet lists under use, against the start. Only what follows from the app's entry points for certain is told. In Flutter, calls of plugins in main before the framework is bound; in Cordova, starts of plugins before the device is ready.",
  why: "What happens before the start is lost, or fails.",
  advice: "Move the start to the function that the sheet asks for, in front of the first use.",
  examples: {
    reported: startExample({ onCreate: "    Quaymap.preload()\n    Quaymap.start(this)\n", needs: ["on: android, use: Quaymap.preload"] }),
    silent: startExample({ onCreate: "    Quaymap.start(this)\n    Quaymap.preload()\n", needs: ["on: android, use: Quaymap.preload"] }),
  },
  check({ app, wires }) {
    const unbound = (app.code?.unbound ?? []).map(({ sdk, callee, at }) => ({
      side: "shared" as const,
      sdk,
      severity: "warning" as const,
      message:
        app.kind === "cordova"
          ? `${callee} of ${sdk} is called when its script is loaded: no plugin is there before the device is ready`
          : `${callee} of ${sdk} is called before the framework is bound: nothing calls ensureInitialized before it`,
      fix: app.kind === "cordova" ? "call it in a listener of deviceready" : "call WidgetsFlutterBinding.ensureInitialized() first in main",
      places: [at],
      subject: `${sdk} ${callee} unbound`,
    }));
    return [...findingsFromFaults(wires, "late"), ...unbound];
  },
});
