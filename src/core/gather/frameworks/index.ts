import type { Framework } from "./framework.js";
import { capacitor } from "./capacitor/index.js";
import { cordova } from "./cordova/index.js";
import { dotnet } from "./dotnet/index.js";
import { expo } from "./expo/index.js";
import { flutter } from "./flutter/index.js";
import { native } from "./native/index.js";
import { reactNative } from "./react-native/index.js";
import { unity } from "./unity/index.js";

/** The frameworks that the survey asks, in this order; what none claims is native. */
export const FRAMEWORKS: Framework[] = [flutter, capacitor, cordova, expo, reactNative, dotnet, unity, native];
