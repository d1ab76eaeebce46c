import { distance } from "fastest-levenshtein";
import { brokenFileOf } from "../../derive/incomplete.js";
import { ASSOCIATED_DOMAINS } from "../../knowledge/extension-points.js";
import type { App } from "../../model/app.js";
import type { ComponentFault } from "../../model/code.js";
import type { RawFinding } from "../../model/finding.js";
import { textOf } from "../../model/value.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const app = (activity: string) =>
  androidExample(androidBlock().replace("android {", 'android {\n  namespace "example.maresia.pilot"'), {
    "app/src/main/AndroidManifest.xml": `<manifest xmlns:android="http://schemas.android.com/apk/res/android">\n  <application>\n    <activity android:name="${activity}" android:exported="true" />\n  </application>\n</manifest>\n`,
    "app/src/main/java/example/maresia/pilot/HarborActivity.kt": "package example.maresia.pilot\n\nclass HarborActivity : Activity()\n",
  });

const WORDS: Record<ComponentFault["what"], (fault: ComponentFault) => { message: string; fix: string }> = {
  class: ({ element, name, near }) => ({
    message: `the ${element} ${name} has no class in the app's code${near === undefined ? "" : `; there is ${near}`}`,
    fix: near === undefined ? "write the class, or remove the element" : `name ${near}, or move the class`,
  }),
  exported: ({ element, name }) => ({
    message: `the ${element} ${name} has an intent filter but does not say android:exported: the app cannot be installed`,
    fix: 'set android:exported="true" where other apps may start it, else "false"',
  }),
  "service type": ({ name, near }) => ({
    message: `the service ${name} runs in the foreground with a type, but the manifest does not request ${near ?? ""}: starting it fails`,
    fix: `add <uses-permission android:name="${near ?? ""}" />`,
  }),
  "scene delegate": ({ element, name, near }) => ({
    message: `${element} names the scene delegate ${name}, but the app's code has no such class${near === undefined ? "" : `; it has ${near}`}`,
    fix: near === undefined ? "write the class, or remove the entry" : `name ${near}`,
  }),
  storyboard: ({ element, name, near }) => ({
    message: `${element} names the storyboard ${name}, which is missing`,
    fix: near === undefined ? `add ${name}.storyboard, or remove the entry` : `write ${near}`,
  }),
  "icon set": ({ element, name, near }) => ({
    message: `${element} names the icons ${name}, which are not there: the app has none`,
    fix: near === undefined ? "add them, or name those that are there" : `write ${near}`,
  }),
  "merge conflict": ({ name, near }) => ({
    message: `${name} is stated here and in another manifest of the app as ${near ?? ""}: they cannot be merged`,
    fix: "state it once, or add tools:replace in the application's manifest",
  }),
  "initializer class": ({ name, near }) => ({
    message: `the manifest names the initializer ${name}, which the app's code does not have: the app ends when it starts`,
    fix: `write ${near ?? "its name as the code has it"}`,
  }),
  "launcher closed": ({ name }) => ({
    message: `${name} is the activity that the app begins with and says that others may not start it: the launcher is refused`,
    fix: 'set android:exported="true" (Exported = true)',
  }),
  "service closed": ({ name }) => ({
    message: `the service ${name} says that other apps may not bind it, and what shows it is another app: it is never started`,
    fix: 'set android:exported="true"; its permission keeps others out',
  }),
  documents: ({ name, near = "" }) => ({
    message: `the provider ${name} gives documents, and ${near.startsWith("android.") ? `does not ask for ${near}` : near === "exported" ? "is not exported" : "does not grant permissions for its addresses"}: the app ends when it starts`,
    fix: near.startsWith("android.") ? `set android:permission="${near}"` : `set android:${near}="true"`,
  }),
  policy: ({ name, near = "" }) => ({
    message: `code calls ${name}, and the policies of the device's administrator do not have <${near}>: the call is refused`,
    fix: `add <${near} /> to <uses-policies>`,
  }),
  "page bridge": ({ name }) => ({
    message: `a page is given ${name}, which has no method with @JavascriptInterface: the page sees none`,
    fix: "annotate the methods that the page calls",
  }),
  "account type": ({ name, near = "" }) => ({
    message: `${name} is no type of account that the app's authenticator has, which is ${near}: the system refuses it`,
    fix: `write ${near}`,
  }),
  "own permission": ({ element, name, near = "" }) => ({
    message: `the ${element} is for who has ${name}, which nothing declares; there is ${near}: nobody is let in`,
    fix: `write ${near}`,
  }),
  "layout class": ({ element, name, near }) => ({
    message: `${element} names the class ${name}, which the app's code does not have${near === undefined ? "" : `; there is ${near}`}: the app ends when it is shown`,
    fix: near === undefined ? "write the class, or its name as the code has it" : `write ${near}`,
  }),
  "no handler": ({ element, name }) => ({
    message:
      element === "call"
        ? `code asks to be woken, and the app has no ${name}: nothing is called then`
        : `${element} says that the app takes ${name}, and no code of it does: it opens and nothing more`,
    fix: element === "call" ? `write ${name} in the app's delegate` : "write the method of the delegate that takes them",
  }),
  feature: ({ name, near = "" }) => ({
    message: `code calls ${name}, and the manifest does not say that the app uses ${near}: the call is refused`,
    fix: `add <uses-feature android:name="${near}" android:required="false" />`,
  }),
  "right to left": ({ name }) => ({
    message: `code turns the layout by ${name}, and the application does not say that it can be turned: on Android nothing changes`,
    fix: 'set android:supportsRtl="true" on <application>',
  }),
  orientation: ({ name, near = "" }) => ({
    message: `code asks for ${name}, and UISupportedInterfaceOrientations has ${near} alone: iOS keeps the screen as it is`,
    fix: `add the orientation to UISupportedInterfaceOrientations`,
  }),
  "link unverified": ({ name }) => ({
    message: `links to ${name} open the iOS app, and on Android, from 12 on, the browser: the filter does not ask for the domain to be verified`,
    fix: 'set android:autoVerify="true" on the filter, and name the app in assetlinks.json of the domain',
  }),
  "link mode": ({ name, near = "" }) => ({
    message: `links open ${name}, whose launchMode is standard: each link starts the framework once more, beside the app that runs`,
    fix: `set android:launchMode="${near}", as in the framework's template`,
  }),
  "service without action": ({ name, near = "" }) => ({
    message: `the system starts ${name} by the action ${near}, which its element does not have: it never does`,
    fix: `add an intent filter with <action android:name="${near}" />`,
  }),
  "service without description": ({ element, name, near = "" }) => ({
    message: `the ${element} ${name} lacks the meta-data ${near}, which says what it is for: the system does not take it`,
    fix: `add <meta-data android:name="${near}" android:resource="@xml/…" />`,
  }),
  "alias target": ({ name, near = "" }) => ({
    message: `the alias ${name} is for the activity ${near}, which no manifest declares: the app cannot be installed`,
    fix: `declare ${near}, or write its name as it is there`,
  }),
  "filter category": ({ name }) => ({
    message: `the intent filter for ${name} lacks the category android.intent.category.DEFAULT: what other apps send does not come to it`,
    fix: 'add <category android:name="android.intent.category.DEFAULT" />',
  }),
  "picture in picture": ({ name }) => ({
    message: `${name} goes into a picture in the picture, and its element does not say that it can: the app ends there`,
    fix: 'set android:supportsPictureInPicture="true"',
  }),
  shortcut: ({ name, near }) => ({
    message: `a shortcut leads to ${name}, which ${near === undefined ? "no manifest declares" : "is not this app"}: a tap on it does nothing`,
    fix: near === undefined ? "write the name of an activity that the manifest declares" : `write ${near}`,
  }),
  "pending intent": ({ name }) => ({
    message: `${name} is called without FLAG_IMMUTABLE or FLAG_MUTABLE: from target level 31 on the app ends there`,
    fix: "add PendingIntent.FLAG_IMMUTABLE to its flags",
  }),
  channel: ({ name, near }) => ({
    message: `a notification is for the channel ${name}, which the app's code does not make: it is never shown`,
    fix: near === undefined ? `make a NotificationChannel with the id ${name}` : `write ${near}, which is made`,
  }),
  "idle registry": ({ name }) => ({
    message: `${name} is made and never told what it takes: no call comes in`,
    fix: "set its desiredPushTypes",
  }),
  query: ({ name }) => ({
    message: `code asks who takes ${name.includes(".") ? name : `${name}:`}, which the manifest's queries do not name: the system says that nobody does`,
    fix: `add <intent> with ${name.includes(".") ? `<action android:name="${name}" />` : `<data android:scheme="${name}" />`} to <queries>`,
  }),
  "file path": ({ name, near = "" }) => ({
    message: `code asks a file provider for a file below ${name}, and its paths have no <${near}>: the app ends there`,
    fix: `add <${near} name="…" path="…" /> to the paths of the provider`,
  }),
  "health rationale": ({ near = "" }) => ({
    message: `the app asks for records of health, and no activity ${near.startsWith("androidx") ? `takes ${near}` : `or alias is for ${near}`}: the system does not ask the person`,
    fix: near.startsWith("androidx")
      ? `add an intent filter with <action android:name="${near}" /> to the activity that says what the records are for`
      : "add an activity-alias for VIEW_PERMISSION_USAGE with the category HEALTH_PERMISSIONS",
  }),
  "no start on TV": () => ({
    message:
      "the app is for televisions (android.software.leanback), but no activity has the category LEANBACK_LAUNCHER: the home screen does not show it",
    fix: 'add <category android:name="android.intent.category.LEANBACK_LAUNCHER" /> to the filter of the first activity',
  }),
  "no banner": ({ name }) => ({
    message: `${name} is what a television starts, but neither it nor the application has a banner: the home screen has nothing to show, and the store refuses it`,
    fix: "set android:banner to a picture of 320 by 180",
  }),
  touchscreen: () => ({
    message: "the app is for televisions too, but does not say that it works without a touchscreen: the store does not offer it to them",
    fix: 'add <uses-feature android:name="android.hardware.touchscreen" android:required="false" />',
  }),
  "no watch": ({ name }) => ({
    message: `the app has ${name}, which is for watches, but no manifest of it says that it is for one: it is offered to phones`,
    fix: 'add <uses-feature android:name="android.hardware.type.watch" />',
  }),
  "widget without action": ({ name }) => ({
    message: `the receiver ${name} names the description of a widget, but does not take APPWIDGET_UPDATE: the widget is not offered`,
    fix: 'add an intent filter with <action android:name="android.appwidget.action.APPWIDGET_UPDATE" />',
  }),
  "widget without provider": ({ name }) => ({
    message: `the receiver ${name} is a widget, but names no description of it (android.appwidget.provider): it is not offered`,
    fix: 'add <meta-data android:name="android.appwidget.provider" android:resource="@xml/…" />',
  }),
  undeclared: ({ element, name }) => ({
    message: `${element} names the activity ${name}, which no manifest declares: it cannot be opened`,
    fix: `declare ${name} in the manifest, or write its name as it is there`,
  }),
  "no name": ({ name }) => ({
    message: `<${name}> has no android:name: the manifest is refused, and the build stops`,
    fix: "add android:name",
  }),
  "filter without action": ({ name }) => ({
    message: `the intent filter${name === "" ? "" : ` with ${name}`} has no action: nothing gets through it`,
    fix: `add ${name.includes("BROWSABLE") ? '<action android:name="android.intent.action.VIEW" />' : "the <action> that it is for"}`,
  }),
  "filter without data": () => ({
    message: "the intent filter for links has no data: no address opens the app by it",
    fix: "add <data> with the scheme and the host, or remove the filter",
  }),
  "unnamed list": ({ name, near = "" }) => ({
    message: `${name} is there, and no manifest names it (android:${near}): nothing of it holds`,
    fix: `set android:${near}="${name}" on <application>, or remove the file`,
  }),
  "link category": ({ name, near }) => ({
    message: `the intent filter for ${name} lacks the category ${near ?? ""}: links do not open the app`,
    fix: `add <category android:name="${near ?? ""}" />`,
  }),
  "link host": () => ({
    message: "the intent filter for links names no host: the system cannot verify it",
    fix: "add android:host to its data",
  }),
  "link closed": ({ name }) => ({
    message: `the intent filter for ${name} stands in an activity that is not exported: links from a browser do not open it`,
    fix: 'set android:exported="true"',
  }),
  "link path": ({ name, near }) => ({
    message: near?.startsWith("/")
      ? `the path ${name} of an intent filter does not begin with a slash: no link fits it`
      : `${name} is no host: the intent filter fits no link`,
    fix: `write ${near ?? ""}`,
  }),
  "link scheme": ({ name, near }) => ({
    message: `code has the address ${name}, but the manifest takes ${near ?? ""}: links to it do not open the app`,
    fix: `write ${near ?? ""}, or the same scheme in the manifest`,
  }),
  "link host of code": ({ name, near }) => ({
    message: `code has the address ${name}, but the filter of its scheme takes the host ${near ?? ""} alone: links to it do not open the app`,
    fix: `write ${near ?? ""}, or add the host to the filter`,
  }),
  "link prefix": ({ name, near }) => ({
    message: `scripts wait for links under ${name}, which do not open the app${near === undefined ? "" : `; it takes ${near}`}`,
    fix:
      near === undefined
        ? "add it to the manifest and to the property list or the entitlements"
        : `write ${near}, or let the app take ${name}`,
  }),
  "action permission": ({ element, name, near }) => ({
    message: near?.includes(".BIND_")
      ? `the ${element} ${name.split(" ")[0] ?? ""} does not ask for ${near}: the system does not start it`
      : `the ${element} ${name.split(" ")[0] ?? ""} waits for ${name.split(" ")[1] ?? ""}, but the app does not request ${near ?? ""}: it never comes`,
    fix: near?.includes(".BIND_") ? `set android:permission="${near}"` : `add <uses-permission android:name="${near ?? ""}" />`,
  }),
  "service never in front": ({ name }) => ({
    message: `the service ${name} is started with startForegroundService and never calls startForeground: the system ends the app`,
    fix: "call startForeground in onCreate or onStartCommand",
  }),
  "service without type": ({ name, near }) => ({
    message:
      near === undefined
        ? `the service ${name} calls startForeground, but ${name.startsWith("androidx.") ? "no element for it states a" : "its element has no"} foregroundServiceType: the call fails`
        : `the service ${name} is put in front as ${near}, which its foregroundServiceType does not have: the call fails`,
    fix:
      near === undefined
        ? `add ${name.startsWith("androidx.") ? `<service android:name="${name}"> with ` : ""}android:foregroundServiceType, and the permission of that type`
        : `add ${near} to android:foregroundServiceType, and its permission`,
  }),
  "file provider": ({ name, near }) => ({
    message: `the provider ${name} ${near === "exported" ? "is exported" : near === "paths" ? "names no paths (android.support.FILE_PROVIDER_PATHS)" : "does not grant permissions for its addresses"}: ${near === "paths" ? "every address of a file is refused" : "the app ends when it starts"}`,
    fix:
      near === "paths"
        ? "add the meta-data android.support.FILE_PROVIDER_PATHS"
        : near === "exported"
          ? 'set android:exported="false"'
          : 'set android:grantUriPermissions="true"',
  }),
  authority: ({ element, name, near }) => ({
    message:
      element === "call" || element === "sync-adapter"
        ? `no provider of the manifest has the authority ${name}; there is ${near ?? ""}: nothing is found there`
        : `code asks a file provider for ${name}, but no provider of the manifest has that authority: the app ends there`,
    fix: near === undefined ? "declare the provider in the manifest" : `write the authority ${near}`,
  }),
  initializer: ({ name, near }) => ({
    message:
      near === "removed"
        ? `the initializer ${name} never runs: its provider is removed by a merge marker`
        : `the initializer ${name} never runs: its android:value is ${near === "" || near === undefined ? "missing" : near}, not androidx.startup`,
    fix: near === "removed" ? 'write tools:node="merge"' : 'set android:value="androidx.startup"',
  }),
  "interface class": ({ name, near }) => ({
    message: `an interface file names the class ${name}, which the app's code does not have: the app ends when it is shown`,
    fix: near === undefined ? "write the class, or name another" : `name ${near}`,
  }),
  "interface outlet": ({ name, near }) => ({
    message: `an interface file connects ${name}, which the class does not have: the app ends when it is shown`,
    fix: near === undefined ? "remove the connection, or add the outlet" : `connect ${near}`,
  }),
  "interface action": ({ name, near }) => ({
    message: `an interface file calls ${name.replace(" ", ".")}, which the class does not have: the app ends at that moment`,
    fix: near === undefined ? "remove the connection, or write the method" : `connect ${near}`,
  }),
  "super not called": ({ element, name }) => ({
    message: `${name} is overridden and does not call ${element}.${name}: the system ends the app there`,
    fix: `call ${element}.${name} first`,
  }),
  "no launcher": ({ name }) => ({
    message: "no activity is the one that the app begins with: it has no icon and cannot be opened",
    fix:
      name === "category"
        ? 'add <category android:name="android.intent.category.LAUNCHER" /> to the filter'
        : name === "action"
          ? 'add <action android:name="android.intent.action.MAIN" /> to the filter'
          : name === "activity"
            ? "declare the activity in the manifest, with an intent filter that has the action MAIN and the category LAUNCHER"
            : name === "filter"
              ? "give the first activity an intent filter with the action MAIN and the category LAUNCHER"
              : "write MainLauncher = true in the attribute of the first activity",
  }),
  "bundle key": ({ element, name }) => ({
    message: `${element} has no ${name}: ${/Version/.test(name) ? "the store rejects the app" : "the app cannot be installed"}`,
    fix: `add ${name}`,
  }),
  "launch screen": ({ element }) => ({
    message: `${element} names no launch screen: the app does not fill the screen, and the store rejects it`,
    fix: "add UILaunchStoryboardName or UILaunchScreen",
  }),
  "scene manifest": ({ element, name }) => ({
    message: `${element} does not name the scene delegate ${name}, and no code does: the system never makes it`,
    fix: "add it to UIApplicationSceneManifest (UISceneDelegateClassName)",
  }),
  "first screen": ({ element, near }) => ({
    message: `${element} names no storyboard to begin with, and no code makes a window: nothing is shown`,
    fix: `add UIMainStoryboardFile with ${near ?? "its name"}`,
  }),
  "outside the target": ({ element, name, near }) => ({
    message: `${element} names ${name}, which lies at ${near ?? ""} and is in no resources of the target: the app does not have it`,
    fix: "add the file to the target",
  }),
  "resource of variants": ({ element, name, near }) => ({
    message: `${element} names ${name}, which builds of ${near ?? ""} do not have: they stop`,
    fix: `add the resource for ${near ?? ""}, or for all builds`,
  }),
  resource: ({ element, name, near, unsure }) => ({
    message: `${element} names ${name}, which no module of the app has${unsure ? "; packages that are not installed were not looked into" : ""}`,
    fix: near === undefined ? "add the resource" : `write ${near}`,
  }),
};

export const componentBroken = defineRule({
  name: "project/component-broken",
  severity: "error",
  title: "A component that the system starts cannot start",
  looksAt:
    "Application classes, activities, services, receivers and providers in the app's own manifests, against the classes of its code; android:exported beside intent filters, the permissions of typed foreground services, scene delegates and storyboards in property lists; classes, outlets and actions that storyboards and xib files name, also where the code is in C#; resources and storyboards that C# names, the icons of its property list; the first activity where it is closed to other apps. Intent filters for links without their categories or host, in activities that are closed, with hosts and paths that fit nothing; permissions without which a component is not sent what it listens to, services that are to run in the foreground and do not; overrides of the life cycle of activities and fragments that do not call what they override, domains of links that the sides write almost alike, file providers that the system refuses, authorities that code asks for, initializers that their provider does not find, resources that manifests name, in every variant; methods of delegates under a name that is almost right, a second @main, and none, an app of Flutter that shows nothing; apps that no launcher shows, bundles without their id or a version, without a launch screen or one to begin with, scenes that nothing names, storyboards and fonts that the target does not copy; widgets of the home screen without their action or description, classes and resources that the files named by meta-data have, services that another app binds and that are closed to it; what a television or a watch does not take an app without; services, receivers and providers of the app that the system starts by an action, a description or a permission which their element lacks, names of the app's own that two files write in two ways, classes that layouts name, what an iOS app is opened with and no code takes, aliases and shortcuts that lead nowhere, filters for what other apps send without their category, pictures in the picture, screens that say what records of health are for; in Kotlin and Java, intents for later without their flag, channels of notifications that nobody makes, files that no path of a provider covers, apps that are asked for without a query. Classes of other packages than the app's come from libraries.",
  silentFor: "Of Unity all but the manifest, and apps whose native code is not in the repository; of Cordova what plugins of others write.",
  why: "The system creates these by name: nothing fails while the app is built, and it ends as soon as one is needed.",
  advice: "Use the class's full name, or move the class to where the name leads.",
  examples: { reported: app(".MainActivity"), silent: app(".HarborActivity") },
  check({ app: model }) {
    return [
      ...[...model.componentFaults, ...(model.code?.components ?? [])]
        .filter((fault) => !isOpen(model, fault))
        .map((fault) => ({
          side: fault.side,
          ...WORDS[fault.what](fault),
          ...(fault.unsure || isOptional(fault) ? { severity: "warning" as const } : {}),
          places: [fault.at],
          subject: `${fault.what} ${fault.name} ${fault.near ?? ""}`,
        })),
      ...misnamed(model),
      ...linkHosts(model),
      ...builtHosts(model).filter(
        ({ subject }) => !model.code?.components.some((fault) => `link path ${fault.name} ${fault.near ?? ""}` === subject),
      ),
    ];
  },
});

/** What is not there may stand in a file that could not be read. */
function isOpen(app: App, { what }: ComponentFault): boolean {
  return what.startsWith("resource") && brokenFileOf(app, "android") !== undefined;
}

/** Findings that a placeholder's value shows: what the build makes of a host. */
function builtHosts({ entries }: App): RawFinding[] {
  return entries.flatMap(({ kind, side, name, by, at }): RawFinding[] => {
    const right = name.replace(/^[a-z]+:\/\//i, "").replace(/[/:].*$/, "");
    if (kind !== "linkHost" || side !== "android" || by !== undefined || /[$@{]/.test(name) || right === name) return [];
    return [
      {
        side: "android",
        message: `${name} is no host: the intent filter fits no link`,
        fix: `write ${right}`,
        places: [at],
        subject: `link path ${name} ${right}`,
      },
    ];
  });
}

/** What only some people meet, or what nothing ends by. */
const OF_SOME: ReadonlySet<ComponentFault["what"]> = new Set<ComponentFault["what"]>([
  "launch screen",
  "channel",
  "query",
  "no handler",
  "link unverified",
  "link mode",
  "right to left",
  "orientation",
  "unnamed list",
  "filter without data",
]);

/** What stops only some ways into the app: links from a browser. */
function isOptional({ what, name, near }: ComponentFault): boolean {
  if (OF_SOME.has(what)) return true;
  return what === "link category" && name.endsWith(":") && near?.endsWith("BROWSABLE") === true;
}

/** The domains whose links open the app, as each side writes them: the one of Android that is almost the one of iOS. */
function linkHosts({ entries }: App): RawFinding[] {
  const domains = entries.flatMap(({ kind, side, name, value }) =>
    kind === "entitlement" && side === "ios" && name === ASSOCIATED_DOMAINS ? [textOf(value)?.replace(/\?.*$/, "").toLowerCase()] : [],
  );
  // A domain that is not known may be the one.
  if (domains.some((text) => text === undefined || text.includes("$"))) return [];
  const links = domains.flatMap((text) => (text?.startsWith("applinks:") ? text.slice("applinks:".length) : []));
  const hosts = new Map(
    entries.flatMap(({ kind, name, by, variant, at }) =>
      kind === "linkHost" && by === undefined && variant === undefined && !/[$*]/.test(name) ? [[name.toLowerCase(), at] as const] : [],
    ),
  );
  const alone = links.filter((domain) => !hosts.has(domain));
  return [...hosts].flatMap(([host, at]): RawFinding[] => {
    const near = links.includes(host)
      ? undefined
      : (alone.find((domain) => distance(domain, host) <= 2 && Math.min(domain.length, host.length) > 6) ??
        (hosts.size === 1 && links.length === 1 ? alone.find((domain) => isBelow(domain, host) || isBelow(host, domain)) : undefined));
    if (near === undefined) return [];
    return [
      {
        side: "android",
        severity: "warning",
        message: `links to ${host} open the Android app, and those to ${near} the iOS app${isBelow(near, host) || isBelow(host, near) ? "" : ": the domains are almost the same"}`,
        fix: "write the same domain on both sides",
        places: [at],
        subject: `link domain ${host}`,
      },
    ];
  });
}

/** Whether a domain is another one with a part before it. */
const isBelow = (domain: string, other: string): boolean => domain.endsWith(`.${other}`);

/** Methods that the system would call if they had its name, and second entry points. */
function misnamed({ code }: App): RawFinding[] {
  return (code?.systemNames ?? []).flatMap(({ kind, name, near = "", side, at }): RawFinding[] => {
    if (kind === "no main")
      return [
        {
          side,
          message:
            near === ""
              ? `nothing of the app is marked as its beginning: ${name} has no @main, and there is no main function`
              : `there is no ${near} function that starts the app with ${name} (${near === "main" ? "UIApplicationMain" : "UIApplication.Main"})`,
          fix: near === "" ? `write @main before ${name}` : `write the function ${near} as the template of the platform has it`,
          places: [at],
          subject: "no main",
        },
      ];
    if (kind === "nothing shown")
      return [
        {
          side,
          message: "no code of the app calls runApp: the screen stays empty",
          fix: "call runApp at the end of main",
          places: [at],
          subject: kind,
        },
      ];
    if (kind === "zones apart")
      return [
        {
          side,
          severity: "warning",
          message: `${name} is bound outside of the zone in which the app runs: what the zone is to catch does not reach it`,
          fix: `call ${name}.ensureInitialized() in the function that runZonedGuarded is given`,
          places: [at],
          subject: kind,
        },
      ];
    if (kind === "second main")
      return [
        {
          side,
          message: `${name} has @main, and so has ${near}: the app can begin in one place only`,
          fix: "remove one of them",
          places: [at],
          subject: "second main",
        },
      ];
    const [of, label = ""] = name.split(" ");
    if (kind !== "method") return [];
    return [
      {
        side,
        severity: "warning",
        message: `the system never calls ${of ?? ""}(_:${label}:): it calls ${near.replace(" ", "(_:")}:)`,
        fix: `write ${near.split(" ")[1] ?? ""}`,
        places: [at],
        subject: `method ${name}`,
      },
    ];
  });
}
