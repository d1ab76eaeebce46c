import type { Framework } from "./framework.js";
import { native } from "./native/index.js";
import { reactNative } from "./react-native/index.js";

/** The frameworks that the survey asks, in this order; what none claims is native. */
export const FRAMEWORKS: Framework[] = [reactNative, native];
