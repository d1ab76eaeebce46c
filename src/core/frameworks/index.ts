import type { Framework } from "./framework.js";
import { cordova } from "./cordova/index.js";
import { flutter } from "./flutter/index.js";
import { native } from "./native/index.js";
import { reactNative } from "./react-native/index.js";

/** The frameworks that the survey asks, in this order; what none claims is native. */
export const FRAMEWORKS: Framework[] = [flutter, cordova, reactNative, native];
