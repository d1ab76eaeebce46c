/**
 * Names that scripts of Android modules know, only held against those that are near: none of the lists has to be whole. Sources: developer.android.com,
 * reference of the Android Gradle plugin (ApplicationExtension, DefaultConfig, BuildType, ProductFlavor, CompileOptions, BuildFeatures, SigningConfig);
 * docs.gradle.org, "Build Script Basics", "Declaring dependencies".
 */
const words = (text: string): readonly string[] => text.trim().split(/\s+/);

/** Blocks of a script itself. */
export const SCRIPT_BLOCKS = words(`
android androidComponents androidResources allprojects apollo artifacts buildscript configurations dependencies dependencyResolutionManagement ext java javafx kapt
kotlin ksp pluginManagement plugins publishing react repositories signing sourceSets subprojects tasks versionCatalogs toolchain
`);

/** Blocks of `android`. */
export const ANDROID_BLOCKS = words(`
aaptOptions adbOptions androidResources buildFeatures buildTypes bundle compileOptions composeOptions dataBinding defaultConfig dependenciesInfo dexOptions
externalNativeBuild flavorDimensions installation kotlinOptions lint lintOptions packaging packagingOptions productFlavors signingConfigs sourceSets
splits testCoverage testFixtures testOptions viewBinding
`);

const OF_FLAVOURS = words(`
applicationId applicationIdSuffix buildConfigField consumerProguardFile consumerProguardFiles dimension isDefault manifestPlaceholders matchingFallbacks
maxSdk maxSdkVersion minSdk minSdkPreview minSdkVersion missingDimensionStrategy multiDexEnabled multiDexKeepFile multiDexKeepProguard proguardFile
proguardFiles renderscriptTargetApi resConfig resConfigs resValue resourceConfigurations signingConfig targetSdk targetSdkPreview targetSdkVersion
testApplicationId testFunctionalTest testHandleProfiling testInstrumentationRunner testInstrumentationRunnerArgument
testInstrumentationRunnerArguments versionCode versionName versionNameSuffix wearAppUnbundled
`);

/** Settings by the block that they stand in; for flavours and build types whatever their names are. */
export const BLOCK_SETTINGS: Readonly<Record<string, readonly string[]>> = {
  "": words(`
    buildToolsVersion compileSdk compileSdkExtension compileSdkMinor compileSdkPreview compileSdkVersion defaultPublishConfig dynamicFeatures assetPacks
    experimentalProperties flavorDimensions generatePureSplits namespace ndkPath ndkVersion publishNonDefault resourcePrefix testBuildType testNamespace useLibrary
  `),
  defaultConfig: OF_FLAVOURS,
  flavor: OF_FLAVOURS,
  buildType: words(`
    applicationIdSuffix buildConfigField consumerProguardFile consumerProguardFiles crunchPngs debuggable embedMicroApp enableAndroidTestCoverage
    enableUnitTestCoverage initWith jniDebuggable manifestPlaceholders matchingFallbacks minifyEnabled multiDexEnabled multiDexKeepFile multiDexKeepProguard
    profileable proguardFile proguardFiles pseudoLocalesEnabled renderscriptDebuggable renderscriptOptimLevel resValue shrinkResources signingConfig
    testCoverageEnabled testProguardFile testProguardFiles useProguard versionNameSuffix zipAlignEnabled
  `),
  compileOptions: words("coreLibraryDesugaringEnabled encoding incremental sourceCompatibility targetCompatibility"),
  buildFeatures: words(
    "aidl buildConfig compose dataBinding mlModelBinding prefab prefabPublishing renderScript resValues shaders viewBinding",
  ),
  signingConfigs: words(`
    enableV1Signing enableV2Signing enableV3Signing enableV4Signing keyAlias keyPassword storeFile storePassword storeType v1SigningEnabled v2SigningEnabled
  `),
  kotlinOptions: words(
    "allWarningsAsErrors apiVersion freeCompilerArgs jvmTarget languageVersion moduleName noJdk suppressWarnings useIR verbose",
  ),
};

/** Configurations that the Android plugin, Kotlin and the usual processors make. */
export const CONFIGURATIONS = words(`
implementation api compileOnly compileOnlyApi runtimeOnly annotationProcessor kapt ksp coreLibraryDesugaring classpath lintChecks lintPublish compile
testImplementation testCompileOnly testRuntimeOnly testAnnotationProcessor androidTestImplementation androidTestRuntimeOnly androidTestUtil
debugImplementation debugApi debugCompileOnly debugRuntimeOnly releaseImplementation releaseApi releaseCompileOnly releaseRuntimeOnly
kaptTest kaptAndroidTest kspTest kspAndroidTest testFixturesImplementation testFixturesApi provided testCompile androidTestCompile
commonMainImplementation commonMainApi androidMainImplementation wearApp baselineProfile
`);
