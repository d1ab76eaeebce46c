/**
 * What a package of scripts, Dart or C# needs once in an app before what it gives works: a view around the others, or a call. Each with its source,
 * the documents of the package; written down 2026-12-02, from memory.
 */
export interface PackageRoot {
  ecosystem: "pub" | "npm" | "nuget";
  /** The packages that give what is used; one of them has to be declared. */
  packages: readonly string[];
  /** The major version from which on it is asked for. */
  from?: number;
  /** Packages that do it by themselves. */
  doneBy?: readonly string[];
  /** What code uses of it. */
  uses: RegExp;
  /** What has to be somewhere. */
  root: RegExp;
  /** What it is called. */
  what: string;
  /** What happens without. */
  without: string;
}

export const PACKAGE_ROOTS: readonly PackageRoot[] = [
  {
    // riverpod.dev, "Getting started" (ProviderScope); read of a provider throws "No ProviderScope found".
    ecosystem: "pub",
    packages: ["flutter_riverpod", "hooks_riverpod"],
    uses: /\bextends\s+(?:Hook)?Consumer(?:Stateful)?Widget\b|\bextends\s+ConsumerState\b|(?<![\w.])(?:Hook)?Consumer\s*\(\s*(?:key\s*:[^,()]*,\s*)?builder\s*:/,
    root: /\b(?:Uncontrolled)?ProviderScope\s*\(/,
    what: "ProviderScope",
    without: "the first widget that reads a provider fails",
  },
  {
    // pub.dev, hive ("Hive.init"), hive_flutter ("Hive.initFlutter").
    ecosystem: "pub",
    packages: ["hive", "hive_flutter", "hive_ce", "hive_ce_flutter"],
    uses: /\bHive\s*\.\s*(?:open(?:Lazy)?Box)\b/,
    root: /\bHive\s*\.\s*init(?:Flutter)?\b/,
    what: "Hive.initFlutter()",
    without: "opening a box fails",
  },
  {
    // pub.dev, flutter_dotenv ("Usage"): reading before loading throws NotInitializedError.
    ecosystem: "pub",
    packages: ["flutter_dotenv"],
    uses: /\bdotenv\s*\.\s*(?:env\s*\[|get(?:Int|Double|Bool)?\s*\(|maybeGet\s*\()/,
    root: /\b(?:dotenv|DotEnv\s*\(\s*\))\s*\.\s*(?:load\w*|testLoad|parse)\s*\(/,
    what: "dotenv.load()",
    without: "reading a value fails",
  },
  {
    // pub.dev, timezone ("Initialization").
    ecosystem: "pub",
    packages: ["timezone"],
    uses: /\b(?:tz\s*\.\s*)?getLocation\s*\(\s*["']|\btz\s*\.\s*(?:local|TZDateTime)\b/,
    root: /\binitializeTimeZones?\s*\(|\binitializeDatabase\s*\(/,
    what: "initializeTimeZones()",
    without: "asking for a location fails",
  },
  {
    // pub.dev, easy_localization ("Getting started").
    ecosystem: "pub",
    packages: ["easy_localization"],
    uses: /["'\w)]\.tr\s*\(/,
    root: /\bEasyLocalization\s*\(\s*\w/,
    what: "EasyLocalization",
    without: "texts are shown by their keys",
  },
  {
    // reactnavigation.org, "Getting started" (NavigationContainer), "Static configuration".
    ecosystem: "npm",
    packages: ["@react-navigation/native"],
    uses: /\bcreate(?:NativeStack|Stack|BottomTab|Drawer|MaterialTopTab)Navigator\s*(?:<[^()]*>)?\(/,
    root: /\b(?:Base)?NavigationContainer\b|\bcreateStaticNavigation\b|["']expo-router/,
    what: "NavigationContainer",
    without: "the first navigator fails",
  },
  {
    // react-redux.js.org, "Provider".
    ecosystem: "npm",
    packages: ["react-redux"],
    uses: /\buse(?:Selector|Dispatch|Store)\s*(?:<[^()]*>)?\(/,
    root: /\bProvider\b[^;]{0,120}\bfrom\s+["']react-redux["']|\bReactRedux\b|\bcreateContext\b|\.Provider\b/,
    what: "Provider",
    without: "the first screen that reads the store fails",
  },
  {
    // The documents of React Query, "Quick start" (QueryClientProvider).
    ecosystem: "npm",
    packages: ["@tanstack/react-query"],
    uses: /\buse(?:Suspense|Infinite)?(?:Query|Mutation)\s*(?:<[^()]*>)?\(|\buseQueryClient\s*\(/,
    root: /\b(?:Persist)?QueryClientProvider\b|\.Provider\b/,
    what: "QueryClientProvider",
    without: "the first screen that asks fails",
  },
  {
    // react.i18next.com, "Quick start" (initReactI18next, I18nextProvider).
    ecosystem: "npm",
    packages: ["react-i18next"],
    uses: /\buseTranslation\s*(?:<[^()]*>)?\(/,
    root: /\binitReactI18next\b|\bI18nextProvider\b|\bsetI18n\b/,
    what: "initReactI18next",
    without: "texts are shown by their keys",
  },
  {
    // The documents of react-native-safe-area-context, "useSafeAreaInsets" (needs a SafeAreaProvider; those of navigators count).
    ecosystem: "npm",
    packages: ["react-native-safe-area-context"],
    uses: /\buseSafeArea(?:Insets|Frame)\s*\(/,
    root: /\bSafeAreaProvider\b|\bNavigationContainer\b|\bcreateStaticNavigation\b|\bSafeAreaInsetsContext\b|["']expo-router/,
    what: "SafeAreaProvider",
    without: "the first screen that asks for the insets fails",
  },
  {
    // The documents of react-native-gesture-handler, "Installation" (GestureHandlerRootView; navigators of stacks with gestures and drawers have their own).
    ecosystem: "npm",
    packages: ["react-native-gesture-handler"],
    uses: /<GestureDetector\b/,
    root: /\bGestureHandlerRootView\b|\bgestureHandlerRootHOC\b|\bcreate(?:Stack|Drawer)Navigator\b|["']expo-router/,
    what: "GestureHandlerRootView",
    without: "gestures do nothing or fail",
  },
  {
    // vuejs.org, pinia, "Getting started".
    ecosystem: "npm",
    packages: ["pinia"],
    doneBy: ["@pinia/nuxt"],
    uses: /\bdefineStore\s*\(/,
    root: /\bcreatePinia\b|\bsetActivePinia\b/,
    what: "app.use(createPinia())",
    without: "the first page that uses a store fails",
  },
  {
    // angular.dev, "Setting up HttpClient" (provideHttpClient).
    ecosystem: "npm",
    packages: ["@angular/common"],
    uses: /\binject\(\s*HttpClient\s*\)|[(,]\s*(?:(?:private|public|protected|readonly)\s+)*\w+\s*:\s*HttpClient\b/,
    root: /\bprovideHttpClient\s*\(|[[,(]\s*HttpClientModule\b|\bprovide\s*:\s*HttpClient\b/,
    what: "provideHttpClient()",
    without: "what asks for the client cannot be made",
  },
  {
    // angular.dev, "Routing", "Define routes" (provideRouter).
    ecosystem: "npm",
    packages: ["@angular/router"],
    uses: /\b(?:Ion)?RouterOutlet\b|\binject\(\s*Router\s*\)|<(?:ion-)?router-outlet\b/,
    root: /\bprovideRouter\s*\(|\bRouterModule\s*\.\s*forRoot\b/,
    what: "provideRouter()",
    without: "no page is shown",
  },
  {
    // ionicframework.com, "Angular standalone" (provideIonicAngular), "Angular quickstart" (IonicModule.forRoot).
    ecosystem: "npm",
    packages: ["@ionic/angular"],
    from: 7,
    uses: /\bIonApp\b|<ion-app\b/,
    root: /\bprovideIonicAngular\s*\(|\bIonicModule\s*\.\s*forRoot\b/,
    what: "provideIonicAngular()",
    without: "its components have no settings, and overlays cannot be made",
  },
  {
    // The documents of ngx-translate, "Installation" (forRoot, provideTranslateService).
    ecosystem: "npm",
    packages: ["@ngx-translate/core"],
    uses: /\bTranslate(?:Module|Pipe|Directive|Service)\b/,
    root: /\bTranslateModule\s*\.\s*forRoot\b|\bprovideTranslateService\s*\(|\bprovide\s*:\s*TranslateService\b/,
    what: "TranslateModule.forRoot()",
    without: "the first page with a text cannot be made",
  },
  {
    // capacitorjs.com, "Push Notifications" (register: the token comes by the event `registration`).
    ecosystem: "npm",
    packages: ["@capacitor/push-notifications"],
    uses: /\bPushNotifications\s*\.\s*addListener\(\s*["']registration["']/,
    root: /\bPushNotifications\s*\??\.\s*register\b|\{[^{}]*\bregister\b[^{}]*\}\s*=\s*PushNotifications\b/,
    what: "PushNotifications.register()",
    without: "no token ever comes",
  },
  {
    // ionicframework.com, "Vue quickstart" (IonicVue).
    ecosystem: "npm",
    packages: ["@ionic/vue"],
    doneBy: ["@nuxtjs/ionic"],
    uses: /<ion-app\b|\bIonApp\b/,
    root: /\bIonicVue\b/,
    what: "app.use(IonicVue)",
    without: "its components have no settings, and pages do not change",
  },
  {
    // ionicframework.com, "React quickstart", "Updating from Ionic 5 to 6" (setupIonicReact).
    ecosystem: "npm",
    packages: ["@ionic/react"],
    from: 6,
    uses: /<IonApp\b/,
    root: /\bsetupIonicReact\b/,
    what: "setupIonicReact()",
    without: "its components do not work as they should",
  },
  {
    // learn.microsoft.com, ".NET MAUI Community Toolkit", "Get started" (UseMauiCommunityToolkit).
    ecosystem: "nuget",
    packages: ["CommunityToolkit.Maui"],
    uses: /\bCommunityToolkit\s*\.\s*Maui\s*\.\s*(?!Markup|MediaElement|Camera|Maps)\w+|schemas\.microsoft\.com\/dotnet\/2022\/maui\/toolkit/,
    root: /\bUseMauiCommunityToolkit(?:Core)?\s*\(/,
    what: "UseMauiCommunityToolkit()",
    without: "the app ends when it first uses it",
  },
  {
    // learn.microsoft.com, "MediaElement", "Getting started".
    ecosystem: "nuget",
    packages: ["CommunityToolkit.Maui.MediaElement"],
    uses: /\bMediaElement\b/,
    root: /\bUseMauiCommunityToolkitMediaElement\s*\(/,
    what: "UseMauiCommunityToolkitMediaElement()",
    without: "no player is shown",
  },
];
