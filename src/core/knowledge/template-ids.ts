/** Ids that templates put in and that no shipped app keeps. Source: the templates of the platforms and frameworks themselves. */
export const TEMPLATE_ID_PREFIXES: { prefix: RegExp; from: string }[] = [
  { prefix: /^com\.(example|company|yourcompany|mycompany|domain|yourdomain|mydomain)(\.|$)/i, from: "a project template" },
  { prefix: /^com\.companyname(\.|$)/i, from: "the .NET template" },
  { prefix: /^com\.defaultcompany(\.|$)/i, from: "a new Unity project" },
  { prefix: /^org\.example(\.|$)/i, from: "a project template" },
  { prefix: /^org\.reactjs\.native\.example(\.|$)/i, from: "the React Native template" },
  // Source: @expo/cli 0.24, `getOrPromptApplicationId.js` (`com.${username}.${slug}`) and `user.js` (`ANONYMOUS_USERNAME`).
  { prefix: /^com\.anonymous(\.|$)/i, from: "Expo's proposal to those who are not signed in" },
  { prefix: /^com\.helloworld(\.|$)/i, from: "a project template" },
  { prefix: /^com\.(awesomeproject|projectname)(\.|$)/i, from: "a project template" },
  {
    prefix: /^io\.cordova\.hellocordova$|^__ID__$|^org\.apache\.cordova\.hellocordova$|^\$\{applicationId\}$/i,
    from: "the Cordova template",
  },
];
