import { IsArray, IsBoolean, IsDefined, IsIn, IsNotEmpty, IsString, Matches, ValidateBy } from "class-validator";
import { IsTexts, Optional, Part } from "../settings/validate.js";
import { isSpan } from "../versions/span.js";
import { AGREEMENTS } from "./kinds.js";

/** Where a key can stand; one entry of `in:`. */
export class KeyPlaceShape {
  /** `meta-data` of the Android manifest, by its name. */
  @Optional(IsString())
  manifest?: string;

  /** Entry of the app's property list, a path with dots for nested ones. */
  @Optional(IsString())
  plist?: string;

  /** String resource on Android. */
  @Optional(IsString())
  string?: string;

  /** Manifest placeholder in the build script. */
  @Optional(IsString())
  placeholder?: string;

  /** `buildConfigField` in the build script. */
  @Optional(IsString())
  buildConfig?: string;

  /** Build setting in the Xcode project or an .xcconfig file. */
  @Optional(IsString())
  buildSetting?: string;

  /** Variable of an .env file. */
  @Optional(IsString())
  env?: string;

  /** Constant or argument in source code, by the name that stands before the value. */
  @Optional(IsString())
  code?: string;
}

export class SideTextsShape {
  @Optional(IsString())
  android?: string;

  @Optional(IsString())
  ios?: string;
}

/** Patterns that tell a key for tests from one for production. */
export class EnvironmentsShape {
  @Optional(IsString())
  test?: string;

  @Optional(IsString())
  live?: string;
}

export class KeyNeedShape {
  @IsString()
  @IsNotEmpty()
  name!: string;

  /** Pattern of the whole value; one for each side where they differ. */
  @Optional(Part(SideTextsShape, { orText: true }))
  shape?: string | SideTextsShape;

  @Optional(IsBoolean())
  secret?: boolean;

  @IsArray({ message: "in must be a list of places, such as [manifest: NAME, plist: NAME]" })
  @Part(KeyPlaceShape, { list: true })
  in!: KeyPlaceShape[];

  @Optional(IsBoolean())
  sameOnBothSides?: boolean;

  @Optional(Part(EnvironmentsShape))
  environments?: EnvironmentsShape;
}

export class BuildPluginShape {
  @IsString()
  @IsNotEmpty()
  id!: string;

  /** `group:artifact` that brings the plugin. */
  @Optional(IsString())
  classpath?: string;
}

export class CompanionShape {
  @IsString()
  @IsNotEmpty()
  package!: string;

  @Optional(Matches(/^\d+(\.\d+)*/, { message: 'atLeast must be a version such as "2.1.0"' }))
  atLeast?: string;
}

/** A value inside a service file that must show up somewhere else. */
export class ShowShape {
  /** Path with dots to the value in the file. */
  @IsString()
  value!: string;

  @IsIn(["urlScheme", "plist", "manifest", "string"], { message: "as must be urlScheme, plist, manifest or string" })
  as!: string;

  /** The name of the entry, for plist, manifest and string. */
  @Optional(IsString())
  name?: string;

  /** The dot-separated parts in reverse order. */
  @Optional(IsBoolean())
  reversed?: boolean;
}

export class ServiceFileShape {
  @IsString()
  @IsNotEmpty()
  name!: string;

  /** Path with dots to the value that must equal the app's id; `*` stands for every item of a list. */
  @Optional(IsString())
  idKey?: string;

  @Optional(IsArray(), Part(ShowShape, { list: true }))
  show?: ShowShape[];
}

export class ManifestEntryShape {
  @IsIn(["meta-data", "activity", "service", "receiver", "provider", "uses-feature", "uses-library"], {
    message: "element must be meta-data, activity, service, receiver, provider, uses-feature or uses-library",
  })
  element!: string;

  @IsString()
  @IsNotEmpty()
  name!: string;

  @Optional(IsString())
  value?: string;
}

export class EntryShape {
  @IsString()
  @IsNotEmpty()
  key!: string;

  @Optional(IsString())
  value?: string;
}

export class UrlSchemeShape {
  /** Name of a key of this sheet that the scheme is built from. */
  @IsString()
  @IsNotEmpty()
  key!: string;

  @Optional(IsString())
  prefix?: string;

  @Optional(IsBoolean())
  reversed?: boolean;
}

export class EmbedShape {
  @IsString()
  @IsNotEmpty()
  name!: string;

  @IsIn(["dynamic", "static"], { message: "kind must be dynamic or static" })
  kind!: string;
}

export class PackagingShape {
  @IsString()
  @IsNotEmpty()
  option!: string;

  @IsString()
  value!: string;
}

/** One argument of a call. */
export class ArgumentShape {
  /** The argument's label, or the name of the option. */
  @Optional(IsString())
  label?: string;

  /** Its position, from 1, where it has no label. */
  @Optional(Matches(/^[1-9]$/, { message: "position must be a number from 1 to 9" }))
  position?: string;

  /** Only on this side. */
  @Optional(IsIn(["android", "ios", "shared"], { message: "on must be android, ios or shared" }))
  on?: string;

  /** Pattern of the whole text, where it is written in the code. */
  @Optional(IsString())
  shape?: string;
}

/** A call or name in source code, per side; one text where it is the same everywhere. */
export class CodeShape {
  @Optional(IsString())
  android?: string;

  @Optional(IsString())
  ios?: string;

  @Optional(IsString())
  shared?: string;

  /** Names for one language only, where they differ from that of the side. */
  @Optional(IsString())
  kotlin?: string;

  @Optional(IsString())
  java?: string;

  @Optional(IsString())
  swift?: string;

  /** `[Quaymap startWithKey:]` or `Quaymap.startWithKey`. */
  @Optional(IsString())
  objc?: string;

  /** JavaScript and TypeScript. */
  @Optional(IsString())
  javascript?: string;

  @Optional(IsString())
  dart?: string;

  @Optional(IsString())
  csharp?: string;

  /** Class of the provider or initializer by which the SDK starts itself on Android; a call is then not needed. */
  @Optional(IsString())
  automatic?: string;

  /** What the call has to be given. */
  @Optional(IsArray(), Part(ArgumentShape, { list: true }))
  arguments?: ArgumentShape[];

  /** Where in the life cycle. */
  @Optional(IsIn(["launch", "firstScreen", "anywhere"], { message: "at must be launch, firstScreen or anywhere" }))
  at?: string;

  /** SDKs that must be started later. */
  @Optional(IsArray(), IsString({ each: true }))
  before?: string[];

  /** SDKs that must be started earlier. */
  @Optional(IsArray(), IsString({ each: true }))
  after?: string[];

  /** Shared code has to ask whether the plugin is there before it calls. */
  @Optional(IsBoolean())
  guard?: boolean;
}

export class WithdrawnShape {
  /** Versions that are no longer right: `<4.2.0`, `>=4.0 <4.2`, `[4.0,4.2)`. */
  @Optional(IsSpan())
  versions?: string;

  /** Calls that are no longer right. */
  @Optional(IsArray(), IsString({ each: true }))
  calls?: string[];

  @IsString()
  @IsNotEmpty()
  instead!: string;
}

function IsSpan(): PropertyDecorator {
  return ValidateBy(
    { name: "isSpan", validator: { validate: (value) => typeof value === "string" && isSpan(value) } },
    { message: (args) => `${args?.property ?? ""} must be versions such as "<4.2.0", ">=4.0 <4.2" or "[4.0,4.2)"` },
  );
}

/** Versions are written as texts or numbers; both are read as text. */
function IsVersion(): PropertyDecorator {
  return Matches(/^\d+(\.\d+)*([-.][A-Za-z].*)?$/, { message: (args) => `${args.property} must be a version such as 24 or "15.1"` });
}

/** One thing that an SDK asks of the app. */
export class NeedShape {
  @IsIn(["android", "ios", "both", "shared"], { message: "on must be android, ios, both or shared" })
  on!: string;

  /** First version of the SDK that asks for it. */
  @Optional(IsVersion())
  from?: string;

  /** First version of the SDK that no longer asks for it. */
  @Optional(IsVersion())
  before?: string;

  /** Only in apps of these frameworks. */
  @Optional(IsTexts())
  framework?: string | string[];

  /** Only for this build type, flavour or configuration. */
  @Optional(IsString())
  variant?: string;

  /** Only where this other package or SDK is in. */
  @Optional(IsString())
  with?: string;

  @Optional(IsString())
  why?: string;

  @Optional(IsVersion())
  minSdk?: string;

  @Optional(IsVersion())
  compileSdk?: string;

  @Optional(IsVersion())
  targetSdk?: string;

  @Optional(IsVersion())
  iosTarget?: string;

  @Optional(IsVersion())
  kotlin?: string;

  @Optional(IsVersion())
  swift?: string;

  @Optional(IsVersion())
  androidPlugin?: string;

  @Optional(IsVersion())
  gradle?: string;

  @Optional(Matches(/^https?:\/\/\S+$/, { message: "repository must be an address such as https://maven.quaymap.example/releases" }))
  repository?: string;

  @Optional(Part(BuildPluginShape, { orText: true }))
  buildPlugin?: string | BuildPluginShape;

  @Optional(Part(CompanionShape, { orText: true }))
  companion?: string | CompanionShape;

  @Optional(Part(ServiceFileShape, { orText: true }))
  serviceFile?: string | ServiceFileShape;

  @Optional(IsString())
  licenceFile?: string;

  @Optional(Part(KeyNeedShape))
  key?: KeyNeedShape;

  @Optional(IsString(), IsNotEmpty())
  permission?: string;

  @Optional(IsString(), IsNotEmpty())
  purposeText?: string;

  @Optional(Part(ManifestEntryShape))
  manifestEntry?: ManifestEntryShape;

  @Optional(Part(EntryShape, { orText: true }))
  plistEntry?: string | EntryShape;

  @Optional(Part(EntryShape, { orText: true }))
  entitlement?: string | EntryShape;

  @Optional(IsString(), IsNotEmpty())
  backgroundMode?: string;

  @Optional(Part(UrlSchemeShape, { orText: true }))
  urlScheme?: string | UrlSchemeShape;

  @Optional(IsString(), IsNotEmpty())
  queriedScheme?: string;

  @Optional(IsString(), IsNotEmpty())
  host?: string;

  @Optional(IsString(), IsNotEmpty())
  systemFramework?: string;

  @Optional(IsString(), IsNotEmpty())
  linkerFlag?: string;

  @Optional(Part(EmbedShape))
  embed?: EmbedShape;

  @Optional(IsString(), IsNotEmpty())
  searchPath?: string;

  @Optional(IsString(), IsNotEmpty())
  keepRule?: string;

  @Optional(Part(PackagingShape))
  packaging?: PackagingShape;

  @Optional(Part(CodeShape, { orText: true }))
  import?: string | CodeShape;

  @Optional(Part(CodeShape, { orText: true }))
  start?: string | CodeShape;

  @Optional(Part(CodeShape, { orText: true }))
  registration?: string | CodeShape;

  @Optional(Part(CodeShape, { orText: true }))
  use?: string | CodeShape;

  @Optional(Part(CodeShape, { orText: true }))
  debugOnly?: string | CodeShape;

  @Optional(Part(WithdrawnShape))
  withdrawn?: WithdrawnShape;

  /** Pattern of the line that the SDK prints when it came up. */
  @Optional(IsString(), IsNotEmpty())
  logLine?: string;
}

/** How an SDK arrives, as each ecosystem writes it. */
export class PackagesShape {
  @Optional(IsTexts())
  maven?: string | string[];

  @Optional(IsTexts())
  cocoapods?: string | string[];

  @Optional(IsTexts())
  swiftpm?: string | string[];

  @Optional(IsTexts())
  carthage?: string | string[];

  @Optional(IsTexts())
  npm?: string | string[];

  @Optional(IsTexts())
  pub?: string | string[];

  @Optional(IsTexts())
  nuget?: string | string[];

  @Optional(IsTexts())
  unity?: string | string[];

  @Optional(IsTexts())
  cordova?: string | string[];

  /** File names of binaries in the tree; `*` stands for anything. */
  @Optional(IsTexts())
  binary?: string | string[];
}

/** What one SDK needs of the apps that it is in. */
export class SheetShape {
  @Matches(/^[a-z0-9][a-z0-9._-]*$/, { message: "sdk must be a short id in lower case, such as quaymap" })
  sdk!: string;

  @Optional(IsString())
  title?: string;

  @Optional(IsString())
  docs?: string;

  @IsDefined({ message: "packages must be a table of keys: say how the SDK arrives" })
  @Part(PackagesShape)
  packages!: PackagesShape;

  /** How near the native versions of the two sides must be. */
  @Optional(IsIn([...AGREEMENTS], { message: "agree must be exact, patch, minor, major or free" }))
  agree?: string;

  @Optional(IsArray({ message: "needs must be a list" }), Part(NeedShape, { list: true }))
  needs?: NeedShape[];
}
