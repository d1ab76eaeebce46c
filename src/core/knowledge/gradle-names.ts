/**
 * Names that scripts of Android modules know, only held against those that are near: none of the lists has to be whole. Sources: developer.android.com,
 * reference of the Android Gradle plugin (ApplicationExtension, DefaultConfig, BuildType, ProductFlavor, CompileOptions, BuildFeatures, SigningConfig);
 * docs.gradle.org, "Build Script Basics", "Declaring dependencies".
 */
const words = (text: string): readonly string[] => text.trim().split(/\s+/);

/** Blocks of a script itself. */
export const SCRIPT_BLOCKS = words(`
android androidComponents androidResources allprojects artifacts buildscript configurations dependencies dependencyResolutionManagement ext java javafx kapt
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
    experimentalProperties flavorDimension flavorDimensions generatePureSplits namespace ndkPath ndkVersion publishNonDefault resourcePrefix testBuildType testNamespace useLibrary
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
  "defaultConfig.ndk": words("abiFilter abiFilters cFlags debugSymbolLevel jobs ldLibs moduleName stl"),
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

/** Rules that the Android plugin brings. Source: developer.android.com, "Shrink, obfuscate, and optimize your app" (getDefaultProguardFile). */
export const RULES_FILES = ["proguard-android.txt", "proguard-android-optimize.txt", "proguard-defaults.txt"];

/** Repositories by the calls that name them. Source: docs.gradle.org, "Declaring repositories"; developer.android.com, "Add build dependencies". */
export const REPOSITORY_CALLS = words("google mavenCentral mavenLocal gradlePluginPortal jcenter maven ivy flatDir exclusiveContent");

/** Calls of a script that are no blocks. Source: docs.gradle.org, "Build Script Basics", "Settings". */
export const SCRIPT_CALLS = words("apply include includeBuild evaluationDependsOn");

/** Packages of the platform that apps ask for most. Sources: developer.android.com, "AndroidX releases" (each library); kotlinlang.org; reactnative.dev, the template. */
export const PLATFORM_ARTIFACTS = words(`
com.android.tools.build:gradle org.jetbrains.kotlin:kotlin-gradle-plugin com.facebook.react:react-native-gradle-plugin com.facebook.react:react-android
com.facebook.react:hermes-android com.android.tools:desugar_jdk_libs org.jetbrains.kotlin:kotlin-stdlib org.jetbrains.kotlin:kotlin-stdlib-jdk7
org.jetbrains.kotlin:kotlin-stdlib-jdk8 org.jetbrains.kotlin:kotlin-stdlib-jre7 org.jetbrains.kotlin:kotlin-stdlib-jre8 org.jetbrains.kotlin:kotlin-reflect org.jetbrains.kotlinx:kotlinx-coroutines-core
org.jetbrains.kotlinx:kotlinx-coroutines-android org.jetbrains.kotlinx:kotlinx-serialization-json
androidx.activity:activity androidx.activity:activity-ktx androidx.activity:activity-compose androidx.annotation:annotation androidx.appcompat:appcompat
androidx.appcompat:appcompat-resources androidx.browser:browser androidx.camera:camera-core androidx.camera:camera-camera2
androidx.camera:camera-lifecycle androidx.camera:camera-view androidx.cardview:cardview androidx.compose:compose-bom androidx.compose.ui:ui
androidx.compose.ui:ui-tooling androidx.compose.ui:ui-tooling-preview androidx.compose.material:material androidx.compose.material3:material3
androidx.compose.foundation:foundation androidx.constraintlayout:constraintlayout androidx.coordinatorlayout:coordinatorlayout androidx.core:core
androidx.core:core-ktx androidx.core:core-splashscreen androidx.datastore:datastore androidx.datastore:datastore-preferences
androidx.exifinterface:exifinterface androidx.fragment:fragment androidx.fragment:fragment-ktx androidx.lifecycle:lifecycle-common
androidx.lifecycle:lifecycle-process androidx.lifecycle:lifecycle-runtime androidx.lifecycle:lifecycle-runtime-ktx
androidx.lifecycle:lifecycle-runtime-compose androidx.lifecycle:lifecycle-viewmodel androidx.lifecycle:lifecycle-viewmodel-ktx
androidx.lifecycle:lifecycle-viewmodel-compose androidx.lifecycle:lifecycle-livedata androidx.lifecycle:lifecycle-livedata-ktx
androidx.localbroadcastmanager:localbroadcastmanager androidx.media:media androidx.multidex:multidex androidx.navigation:navigation-fragment
androidx.navigation:navigation-fragment-ktx androidx.navigation:navigation-ui androidx.navigation:navigation-ui-ktx
androidx.navigation:navigation-compose androidx.preference:preference androidx.preference:preference-ktx androidx.recyclerview:recyclerview
androidx.room:room-runtime androidx.room:room-ktx androidx.room:room-compiler androidx.security:security-crypto androidx.startup:startup-runtime
androidx.swiperefreshlayout:swiperefreshlayout androidx.viewpager2:viewpager2 androidx.webkit:webkit androidx.work:work-runtime
androidx.work:work-runtime-ktx androidx.window:window androidx.biometric:biometric androidx.paging:paging-runtime
`);
