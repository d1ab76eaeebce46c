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
