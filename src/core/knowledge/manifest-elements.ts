/** Elements of an Android manifest. Source: developer.android.com, "App manifest, manifest file structure". */
export const MANIFEST_ELEMENTS: readonly string[] = `
action activity activity-alias application category compatible-screens data grant-uri-permission instrumentation intent intent-filter layout manifest
meta-data package path-permission permission permission-group permission-tree profileable property provider queries receiver screen service
supports-gl-texture supports-screens uses-configuration uses-feature uses-library uses-native-library uses-permission uses-permission-sdk-23 uses-sdk
attribution protected-broadcast adopt-permissions original-package overlay uses-static-library uses-split supports-input nav-graph uri-relative-filter-group
dist module
`
  .trim()
  .split(/\s+/);
