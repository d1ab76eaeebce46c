import type { LifeCyclePhase } from "../model/code.js";

/** One function that the system calls by itself while an app comes up. */
export interface LifeCycleStep {
  /** Names of the function in the languages of the side, or its selector. */
  names: readonly string[];
  /** What the type around it has to extend, implement or be marked with. */
  of: RegExp;
  phase: LifeCyclePhase;
  /** Smaller ones run first within a side. */
  rank: number;
  title: string;
}

/**
 * Source: developer.android.com, "Application" (attachBaseContext, onCreate), "ContentProvider" (onCreate before the application's),
 * "App Startup"; "The activity lifecycle".
 */
export const ANDROID_STEPS: readonly LifeCycleStep[] = [
  {
    names: ["attachBaseContext", "AttachBaseContext"],
    of: /Application/,
    phase: "beforeLaunch",
    rank: 10,
    title: "Application.attachBaseContext",
  },
  { names: ["onCreate", "OnCreate"], of: /Application/, phase: "launch", rank: 30, title: "Application.onCreate" },
  { names: ["init"], of: /Application/, phase: "beforeLaunch", rank: 5, title: "the application's constructor" },
  { names: ["onCreate", "OnCreate"], of: /Activity/, phase: "firstScreen", rank: 40, title: "first activity, onCreate" },
  { names: ["onStart", "OnStart"], of: /Activity/, phase: "firstScreen", rank: 42, title: "first activity, onStart" },
  { names: ["onResume", "OnResume"], of: /Activity/, phase: "firstScreen", rank: 44, title: "first activity, onResume" },
  { names: ["load"], of: /BridgeActivity/, phase: "firstScreen", rank: 41, title: "first activity, load" },
];

/**
 * Source: developer.apple.com, "Responding to the launch of your app", "UIApplicationDelegate", "UISceneDelegate", "App" (SwiftUI),
 * "NSObject load and initialize".
 */
export const IOS_STEPS: readonly LifeCycleStep[] = [
  {
    names: ["application:willFinishLaunchingWithOptions:", "WillFinishLaunching"],
    of: /Delegate/,
    phase: "launch",
    rank: 20,
    title: "willFinishLaunching",
  },
  {
    names: ["application:didFinishLaunchingWithOptions:", "applicationDidFinishLaunching:", "FinishedLaunching"],
    of: /Delegate/,
    phase: "launch",
    rank: 30,
    title: "didFinishLaunching",
  },
  {
    names: ["scene:willConnectToSession:options:", "scene:willConnectTo:options:", "WillConnect"],
    of: /SceneDelegate/,
    // A launch for a message or in the background connects none.
    phase: "firstScreen",
    rank: 35,
    title: "scene willConnect",
  },
  { names: ["init"], of: /(^|\s)App(\s|$)/, phase: "launch", rank: 15, title: "App.init" },
  { names: ["init"], of: /UIApplicationDelegate/, phase: "beforeLaunch", rank: 8, title: "the app delegate's init" },
  { names: ["body"], of: /(^|\s)App(\s|$)/, phase: "firstScreen", rank: 40, title: "App.body" },
  {
    names: ["applicationDidBecomeActive:", "sceneDidBecomeActive:", "OnActivated", "sceneWillEnterForeground:"],
    of: /Delegate/,
    phase: "firstScreen",
    rank: 45,
    title: "did become active",
  },
  { names: ["load"], of: /./, phase: "beforeLaunch", rank: 1, title: "+load" },
  { names: ["main"], of: /^$/, phase: "beforeLaunch", rank: 5, title: "main" },
];

/** Source: learn.microsoft.com, ".NET MAUI app startup" and "App lifecycle". */
export const DOTNET_STEPS: readonly LifeCycleStep[] = [
  { names: ["CreateMauiApp"], of: /^/, phase: "launch", rank: 20, title: "CreateMauiApp" },
  {
    names: ["init"],
    of: /(^|\s)(Application)(\s|$)/,
    phase: "launch",
    rank: 25,
    title: "the shared App's constructor",
  },
  { names: ["OnStart"], of: /(^|\s)(Application)(\s|$)/, phase: "launch", rank: 27, title: "App.OnStart" },
];

/** What the framework calls of a component of Razor, in its order. Source: learn.microsoft.com, "ASP.NET Core Razor component lifecycle". */
export const COMPONENT_STEPS = [
  "OnInitialized",
  "OnInitializedAsync",
  "OnParametersSet",
  "OnParametersSetAsync",
  "BuildRenderTree",
  "OnAfterRender",
  "OnAfterRenderAsync",
] as const;

/** Source: docs.unity3d.com, "RuntimeInitializeOnLoadMethodAttribute", "Order of execution for event functions". */
export const UNITY_STEPS: readonly LifeCycleStep[] = [
  { names: ["Awake"], of: /./, phase: "launch", rank: 20, title: "Awake" },
  { names: ["OnEnable"], of: /./, phase: "launch", rank: 21, title: "OnEnable" },
  { names: ["Start"], of: /./, phase: "launch", rank: 30, title: "Start" },
];

/** Unity's load types in the order in which they run. */
export const UNITY_LOAD_TYPES = [
  "SubsystemRegistration",
  "AfterAssembliesLoaded",
  "BeforeSplashScreen",
  "BeforeSceneLoad",
  "AfterSceneLoad",
];

/**
 * Events by which a page and the device tell that they are ready: what waits for one is part of the launch.
 * Sources: cordova.apache.org, "Events" (deviceready); developer.mozilla.org, "Document: DOMContentLoaded event", "Window: load event", "Window: pageshow event".
 */
export const LAUNCH_EVENTS: ReadonlySet<string> = new Set(["deviceready", "DOMContentLoaded", "load", "pageshow"]);

/**
 * What a closure is handed over to: whether it runs there and then, soon, or when a person or the system does something; `drawn`: behind the
 * first frame.
 */
export const CLOSURE_TIMES: readonly { names: RegExp; when: "now" | "soon" | "effect" | "event"; background?: boolean; drawn?: true }[] = [
  {
    // Sources: api.dart.dev, "Timer"; developer.apple.com, "OperationQueue"; docs.swift.org, "Deferred actions"; learn.microsoft.com, "Task.ContinueWith".
    names: /(^|\.)(Timer(\.(run|periodic))?|addOperation|addOperationWithBlock|addBarrierBlock|defer|ContinueWith)$/,
    when: "soon",
  },
  {
    // Sources: reactnative.dev, "InteractionManager"; api.flutter.dev, `addPostFrameCallback`; developer.mozilla.org, "requestIdleCallback".
    names: /(^|\.)(runAfterInteractions|addPostFrameCallback|requestIdleCallback)$/,
    when: "soon",
    drawn: true,
  },
  {
    // Source: api.flutter.dev, `FlutterError.onError`, `PlatformDispatcher.onError`.
    names: /\.on(?:Error|Failure|Exception|Unhandled\w*|Uncaught\w*)$/,
    when: "event",
  },
  {
    // Source: learn.microsoft.com, "AppDomain.ProcessExit", "Application lifecycle" (.NET MAUI).
    names: /(^|\.)(ProcessExit|UnhandledException|Deactivated|Stopped|Destroying|Backgrounding)$/,
    when: "event",
  },
  {
    names: /(^|\.)(Isolate\.(run|spawn)|Task\.Run|Task\.Factory\.StartNew|BeginInvokeOnMainThread|InvokeOnMainThreadAsync)$/,
    when: "soon",
    background: true,
  },
  {
    names:
      /(^|\.)(apply|also|run|let|with|use|runCatching|synchronized|forEach|map|runZonedGuarded|runZoned|autoreleasepool|withContext|runBlocking|tap|UseMauiApp|sync|init|dispatch_once|dispatch_sync|performSelector)$|^(Runnable|Callable)$/,
    when: "now",
  },
  {
    // Parts of a screen that are made of what their closure gives. Source: developer.apple.com, "ViewBuilder"; developer.android.com, "Compose layouts".
    names:
      /^(WindowGroup|NavigationView|NavigationStack|NavigationSplitView|NavigationLink|VStack|HStack|ZStack|LazyVStack|LazyHStack|Group|List|ForEach|Form|Section|ScrollView|TabView|GeometryReader|setContent|Column|Row|Box|Scaffold|Surface|MaterialTheme|\w+Theme|LazyColumn|LazyRow|CompositionLocalProvider)$/,
    when: "now",
  },
  {
    names:
      /(^|\.)(LaunchedEffect|DisposableEffect|SideEffect|useEffect|useLayoutEffect|useFocusEffect|useMemo|onAppear|task|OnAppearing|ngOnInit|onMounted)$/,
    when: "effect",
  },
  {
    names: /thread|Dispatchers|global|detached|^Task$|submit|executor|compute|background|executeOnExecutor/i,
    when: "soon",
    background: true,
  },
  {
    names:
      /(^|\.)(launch|async|post|postDelayed|execute|dispatch_\w+|setTimeout|setInterval|then|catch|finally|whenComplete|StartCoroutine|microtask|scheduleMicrotask|delayed|nextTick|requestAnimationFrame|dispatch|perform|performSelectorOnMainThread|asyncAfter|sink|whenReady|ready|getApp|Run)$/,
    when: "soon",
  },
  {
    names:
      /(^|\.)(on[A-Z]\w*|set\w*Listener|add\w*Listener|addTarget|addObserver|addEventListener|subscribe|observe|registerFor\w+|addAction|On[A-Z]\w*|add_\w+)$/,
    when: "event",
  },
];

/**
 * Methods that the system calls when something ends, goes to the background or has to give memory back: what only they lead to does not start
 * anything. Sources: developer.android.com, "The activity lifecycle", `ComponentCallbacks2`, `Application`; developer.apple.com,
 * "UIApplicationDelegate", "UIViewController", "UISceneDelegate", docs.swift.org, "Deinitialization"; api.flutter.dev, `State.dispose`; react.dev,
 * "Component"; learn.microsoft.com, "App lifecycle" (.NET MAUI), "Finalizers".
 */
export const CLOSING_METHODS: ReadonlySet<string> = new Set([
  "onTrimMemory",
  "onLowMemory",
  "onTerminate",
  "onDestroy",
  "onDestroyView",
  "onStop",
  "onPause",
  "onCleared",
  "finalize",
  "Finalize",
  "deinit",
  "dealloc",
  "applicationWillTerminate",
  "applicationDidEnterBackground",
  "applicationWillResignActive",
  "applicationDidReceiveMemoryWarning",
  "didReceiveMemoryWarning",
  "viewWillDisappear",
  "viewDidDisappear",
  "sceneDidDisconnect",
  "sceneDidEnterBackground",
  "sceneWillResignActive",
  "dispose",
  "deactivate",
  "componentWillUnmount",
  "OnSleep",
  "OnDisappearing",
  "OnDestroy",
  "OnStop",
  "OnPause",
]);
