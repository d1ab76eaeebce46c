/**
 * Names in project files of .NET apps, only held against those that are near: none of the lists has to be whole. Sources: learn.microsoft.com, "Common
 * MSBuild project properties", "MSBuild reference for .NET SDK projects", "Build properties" and "Build items" (.NET for Android, .NET for iOS), ".NET MAUI
 * single project", "MSBuild items" (attributes).
 */
const words = (text: string): readonly string[] => text.trim().split(/\s+/);

export const PROJECT_PROPERTIES = words(`
TargetFramework TargetFrameworks OutputType RootNamespace AssemblyName UseMaui SingleProject ImplicitUsings Nullable LangVersion DefineConstants
ApplicationTitle ApplicationId ApplicationIdGuid ApplicationDisplayVersion ApplicationVersion SupportedOSPlatformVersion TargetPlatformVersion
TargetPlatformMinVersion WindowsPackageType MauiVersion MauiXamlInflator EnableDefaultItems EnableDefaultCompileItems EnableDefaultMauiItems
RuntimeIdentifier RuntimeIdentifiers Configurations Configuration Platforms Platform TreatWarningsAsErrors WarningsAsErrors NoWarn
AndroidManifest AndroidApplication AndroidPackageFormat AndroidPackageFormats AndroidLinkMode AndroidLinkTool AndroidLinkResources AndroidEnableProguard
AndroidKeyStore AndroidSigningKeyStore AndroidSigningKeyAlias AndroidSigningKeyPass AndroidSigningStorePass AndroidSupportedAbis AndroidUseAapt2
AndroidEnableMultiDex AndroidEnableDesugar AndroidDexTool AndroidCreatePackagePerAbi AndroidUseSharedRuntime AndroidEnableProfiledAot AndroidUseInterpreter
AndroidResgenFile AndroidResgenClass AndroidManifestPlaceholders AndroidUseDesignerAssembly AndroidClassParser AndroidCodegenTarget
EmbedAssembliesIntoApk RunAOTCompilation PublishTrimmed TrimMode UseInterpreter MtouchLink MtouchInterpreter MtouchExtraArgs MtouchDebug MtouchArch
MtouchUseLlvm CodesignKey CodesignProvision CodesignEntitlements CodesignExtraArgs CodesignResourceRules ArchiveOnBuild BuildIpa IpaPackageName
ProvisionType EnableCodeSigning IsBindingProject IsAppExtension IPhoneResourcePrefix MonoAndroidResourcePrefix MonoAndroidAssetsPrefix
ProjectTypeGuids ProjectGuid TargetFrameworkVersion TargetFrameworkIdentifier RestorePackagesWithLockFile RestoreLockedMode
ManagePackageVersionsCentrally CentralPackageTransitivePinningEnabled DebugSymbols DebugType Optimize OutputPath GenerateAssemblyInfo Version
PackageVersion AssemblyVersion FileVersion InformationalVersion Company Product Authors Description InvariantGlobalization EventSourceSupport
`);

export const PROJECT_ITEMS = words(`
PackageReference ProjectReference Reference PackageVersion GlobalPackageReference FrameworkReference Compile None Content EmbeddedResource Folder Using
MauiIcon MauiSplashScreen MauiImage MauiFont MauiAsset MauiCss MauiXaml
AndroidResource AndroidAsset AndroidLibrary AndroidJavaLibrary AndroidJavaSource AndroidNativeLibrary AndroidAarLibrary AndroidEnvironment
AndroidManifestOverlay AndroidBoundLayout AndroidExternalJavaLibrary AndroidMavenLibrary AndroidGradleProject AndroidIgnoredJavaDependency
ProguardConfiguration MultiDexMainDexList TransformFile LibraryProjectZip EmbeddedJar InputJar LinkDescription TrimmerRootDescriptor TrimmerRootAssembly
BundleResource ImageAsset InterfaceDefinition NativeReference PartialAppManifest CustomEntitlements ObjcBindingApiDefinition ObjcBindingCoreSource
ObjcBindingNativeLibrary AppExtensionReference AdditionalAppExtensions SceneKitAsset CoreMLModel Metal Collada
`);

/** Attributes of items; those of an item's own are metadata of any name. */
export const ITEM_ATTRIBUTES = words("Include Exclude Remove Update Condition Version VersionOverride Label");

/** Attributes of groups and properties. */
export const GROUP_ATTRIBUTES = words("Condition Label");

/** Properties that the build itself sets and conditions ask for. */
export const GIVEN_PROPERTIES = words(`
Configuration TargetFramework TargetFrameworks TargetFrameworkVersion TargetFrameworkIdentifier TargetPlatformIdentifier TargetPlatformVersion Platform OutputType
AssemblyName RootNamespace MSBuildProjectDirectory MSBuildProjectName MSBuildThisFileDirectory SolutionDir ProjectDir RuntimeIdentifier
`);

/** Properties of which only some words are known, in any case. */
export const PROPERTY_WORDS: Readonly<Record<string, readonly string[]>> = {
  ...Object.fromEntries(
    words(
      "UseMaui SingleProject AndroidEnableMultiDex PublishTrimmed RunAOTCompilation IsBindingProject ManagePackageVersionsCentrally UseInterpreter",
    ).map((name) => [name, ["true", "false"]]),
  ),
  AndroidLinkMode: ["None", "SdkOnly", "Full"],
  AndroidLinkTool: ["r8", "proguard"],
  AndroidPackageFormat: ["aab", "apk"],
  MtouchLink: ["None", "SdkOnly", "Full"],
  OutputType: ["Exe", "WinExe", "Library"],
};

/** Packages of the framework's maker that apps ask for most. Source: learn.microsoft.com, ".NET MAUI", "Community toolkits". */
export const FRAMEWORK_PACKAGES = words(`
Microsoft.Maui.Controls Microsoft.Maui.Controls.Compatibility Microsoft.Maui.Controls.Maps Microsoft.Maui.Core Microsoft.Maui.Essentials
Microsoft.Maui.Graphics Microsoft.AspNetCore.Components.WebView.Maui Microsoft.Extensions.Logging.Debug Microsoft.Extensions.Http CommunityToolkit.Mvvm
CommunityToolkit.Maui Xamarin.Forms Xamarin.Essentials
`);
