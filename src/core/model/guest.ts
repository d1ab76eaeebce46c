/** The folder in which a package of Dart is seen that is not in the project. */
export const GUEST = ".enredo-guest";
