import { IsArray, IsBoolean, IsDefined, IsIn, IsNotEmpty, IsOptional, IsString, Matches, ValidateBy } from "class-validator";
import { IsTexts, Part } from "../settings/validate.js";
import { isSpan } from "../versions/span.js";
import { AGREEMENTS } from "./kinds.js";

/** Where a key can stand; one entry of `in:`. */
export class KeyPlaceShape {
  /** `meta-data` of the Android manifest, by its name. */
  @IsOptional()
  @IsString()
  manifest?: string;

  /** Entry of the app's property list, a path with dots for nested ones. */
  @IsOptional()
  @IsString()
  plist?: string;

  /** String resource on Android. */
  @IsOptional()
  @IsString()
  string?: string;

  /** Manifest placeholder in the build script. */
  @IsOptional()
  @IsString()
  placeholder?: string;

  /** `buildConfigField` in the build script. */
  @IsOptional()
  @IsString()
  buildConfig?: string;

  /** Build setting in the Xcode project or an .xcconfig file. */
  @IsOptional()
  @IsString()
  buildSetting?: string;

  /** Variable of an .env file. */
  @IsOptional()
  @IsString()
  env?: string;

  /** Constant or argument in source code, by the name that stands before the value. */
  @IsOptional()
  @IsString()
  code?: string;
}

export class SideTextsShape {
  @IsOptional()
  @IsString()
  android?: string;

  @IsOptional()
  @IsString()
  ios?: string;
}

/** Patterns that tell a key for tests from one for production. */
export class EnvironmentsShape {
  @IsOptional()
  @IsString()
  test?: string;

  @IsOptional()
  @IsString()
  live?: string;
}

export class KeyNeedShape {
  @IsString()
  @IsNotEmpty()
  name!: string;

  /** Pattern of the whole value; one for each side where they differ. */
  @IsOptional()
  @Part(SideTextsShape, { orText: true })
  shape?: string | SideTextsShape;

  @IsOptional()
  @IsBoolean()
  secret?: boolean;

  @IsArray({ message: "in must be a list of places, such as [manifest: NAME, plist: NAME]" })
  @Part(KeyPlaceShape, { list: true })
  in!: KeyPlaceShape[];

  @IsOptional()
  @IsBoolean()
  sameOnBothSides?: boolean;

  @IsOptional()
  @Part(EnvironmentsShape)
  environments?: EnvironmentsShape;
}

export class BuildPluginShape {
  @IsString()
  @IsNotEmpty()
  id!: string;

  /** `group:artifact` that brings the plugin. */
  @IsOptional()
  @IsString()
  classpath?: string;
}

export class CompanionShape {
  @IsString()
  @IsNotEmpty()
  package!: string;

  @IsOptional()
  @Matches(/^\d+(\.\d+)*/, { message: 'atLeast must be a version such as "2.1.0"' })
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
  @IsOptional()
  @IsString()
  name?: string;

  /** The dot-separated parts in reverse order. */
  @IsOptional()
  @IsBoolean()
  reversed?: boolean;
}

export class ServiceFileShape {
  @IsString()
  @IsNotEmpty()
  name!: string;

  /** Path with dots to the value that must equal the app's id; `*` stands for every item of a list. */
  @IsOptional()
  @IsString()
  idKey?: string;

  @IsOptional()
  @IsArray()
  @Part(ShowShape, { list: true })
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

  @IsOptional()
  @IsString()
  value?: string;
}

export class EntryShape {
  @IsString()
  @IsNotEmpty()
  key!: string;

  @IsOptional()
  @IsString()
  value?: string;
}

export class UrlSchemeShape {
  /** Name of a key of this sheet that the scheme is built from. */
  @IsString()
  @IsNotEmpty()
  key!: string;

  @IsOptional()
  @IsString()
  prefix?: string;

  @IsOptional()
  @IsBoolean()
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

/** A call or name in source code, per side; one text where it is the same everywhere. */
export class CodeShape {
  @IsOptional()
  @IsString()
  android?: string;

  @IsOptional()
  @IsString()
  ios?: string;

  @IsOptional()
  @IsString()
  shared?: string;

  /** Where in the life cycle. */
  @IsOptional()
  @IsIn(["launch", "firstScreen", "anywhere"], { message: "at must be launch, firstScreen or anywhere" })
  at?: string;

  /** SDKs that must be started later. */
  @IsOptional()
  @IsArray()
  @IsString({ each: true })
  before?: string[];

  /** SDKs that must be started earlier. */
  @IsOptional()
  @IsArray()
  @IsString({ each: true })
  after?: string[];

  /** Shared code has to ask whether the plugin is there before it calls. */
  @IsOptional()
  @IsBoolean()
  guard?: boolean;
}

export class WithdrawnShape {
  /** Versions that are no longer right: `<4.2.0`, `>=4.0 <4.2`, `[4.0,4.2)`. */
  @IsOptional()
  @IsSpan()
  versions?: string;

  /** Calls that are no longer right. */
  @IsOptional()
  @IsArray()
  @IsString({ each: true })
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
  @IsOptional()
  @IsVersion()
  from?: string;

  /** First version of the SDK that no longer asks for it. */
  @IsOptional()
  @IsVersion()
  before?: string;

  /** Only in apps of these frameworks. */
  @IsOptional()
  @IsTexts()
  framework?: string | string[];

  /** Only for this build type, flavour or configuration. */
  @IsOptional()
  @IsString()
  variant?: string;

  /** Only where this other package or SDK is in. */
  @IsOptional()
  @IsString()
  with?: string;

  @IsOptional()
  @IsString()
  why?: string;

  @IsOptional()
  @IsVersion()
  minSdk?: string;

  @IsOptional()
  @IsVersion()
  compileSdk?: string;

  @IsOptional()
  @IsVersion()
  targetSdk?: string;

  @IsOptional()
  @IsVersion()
  iosTarget?: string;

  @IsOptional()
  @IsVersion()
  kotlin?: string;

  @IsOptional()
  @IsVersion()
  swift?: string;

  @IsOptional()
  @IsVersion()
  androidPlugin?: string;

  @IsOptional()
  @IsVersion()
  gradle?: string;

  @IsOptional()
  @Matches(/^https?:\/\/\S+$/, { message: "repository must be an address such as https://maven.quaymap.example/releases" })
  repository?: string;

  @IsOptional()
  @Part(BuildPluginShape, { orText: true })
  buildPlugin?: string | BuildPluginShape;

  @IsOptional()
  @Part(CompanionShape, { orText: true })
  companion?: string | CompanionShape;

  @IsOptional()
  @Part(ServiceFileShape, { orText: true })
  serviceFile?: string | ServiceFileShape;

  @IsOptional()
  @IsString()
  licenceFile?: string;

  @IsOptional()
  @Part(KeyNeedShape)
  key?: KeyNeedShape;

  @IsOptional()
  @IsString()
  @IsNotEmpty()
  permission?: string;

  @IsOptional()
  @IsString()
  @IsNotEmpty()
  purposeText?: string;

  @IsOptional()
  @Part(ManifestEntryShape)
  manifestEntry?: ManifestEntryShape;

  @IsOptional()
  @Part(EntryShape, { orText: true })
  plistEntry?: string | EntryShape;

  @IsOptional()
  @Part(EntryShape, { orText: true })
  entitlement?: string | EntryShape;

  @IsOptional()
  @IsString()
  @IsNotEmpty()
  backgroundMode?: string;

  @IsOptional()
  @Part(UrlSchemeShape, { orText: true })
  urlScheme?: string | UrlSchemeShape;

  @IsOptional()
  @IsString()
  @IsNotEmpty()
  queriedScheme?: string;

  @IsOptional()
  @IsString()
  @IsNotEmpty()
  host?: string;

  @IsOptional()
  @IsString()
  @IsNotEmpty()
  systemFramework?: string;

  @IsOptional()
  @IsString()
  @IsNotEmpty()
  linkerFlag?: string;

  @IsOptional()
  @Part(EmbedShape)
  embed?: EmbedShape;

  @IsOptional()
  @IsString()
  @IsNotEmpty()
  searchPath?: string;

  @IsOptional()
  @IsString()
  @IsNotEmpty()
  keepRule?: string;

  @IsOptional()
  @Part(PackagingShape)
  packaging?: PackagingShape;

  @IsOptional()
  @Part(CodeShape, { orText: true })
  import?: string | CodeShape;

  @IsOptional()
  @Part(CodeShape, { orText: true })
  start?: string | CodeShape;

  @IsOptional()
  @Part(CodeShape, { orText: true })
  registration?: string | CodeShape;

  @IsOptional()
  @Part(CodeShape, { orText: true })
  use?: string | CodeShape;

  @IsOptional()
  @Part(CodeShape, { orText: true })
  debugOnly?: string | CodeShape;

  @IsOptional()
  @Part(WithdrawnShape)
  withdrawn?: WithdrawnShape;

  /** Pattern of the line that the SDK prints when it came up. */
  @IsOptional()
  @IsString()
  @IsNotEmpty()
  logLine?: string;
}

/** How an SDK arrives, as each ecosystem writes it. */
export class PackagesShape {
  @IsOptional()
  @IsTexts()
  maven?: string | string[];

  @IsOptional()
  @IsTexts()
  cocoapods?: string | string[];

  @IsOptional()
  @IsTexts()
  swiftpm?: string | string[];

  @IsOptional()
  @IsTexts()
  carthage?: string | string[];

  @IsOptional()
  @IsTexts()
  npm?: string | string[];

  @IsOptional()
  @IsTexts()
  pub?: string | string[];

  @IsOptional()
  @IsTexts()
  nuget?: string | string[];

  @IsOptional()
  @IsTexts()
  unity?: string | string[];

  @IsOptional()
  @IsTexts()
  cordova?: string | string[];

  /** File names of binaries in the tree; `*` stands for anything. */
  @IsOptional()
  @IsTexts()
  binary?: string | string[];
}

/** What one SDK needs of the apps that it is in. */
export class SheetShape {
  @Matches(/^[a-z0-9][a-z0-9._-]*$/, { message: "sdk must be a short id in lower case, such as quaymap" })
  sdk!: string;

  @IsOptional()
  @IsString()
  title?: string;

  @IsOptional()
  @IsString()
  docs?: string;

  @IsDefined({ message: "packages must be a table of keys: say how the SDK arrives" })
  @Part(PackagesShape)
  packages!: PackagesShape;

  /** How near the native versions of the two sides must be. */
  @IsOptional()
  @IsIn([...AGREEMENTS], { message: "agree must be exact, patch, minor, major or free" })
  agree?: string;

  @IsOptional()
  @IsArray({ message: "needs must be a list" })
  @Part(NeedShape, { list: true })
  needs?: NeedShape[];
}
