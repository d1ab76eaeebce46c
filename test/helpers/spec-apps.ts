/** An iOS app whose Xcode project is written from a spec, and an Android app beside it. */
export const written: Readonly<Record<string, string>> = {
  ".gitignore": "*.xcodeproj\n",
  "ios/project.yml": `name: Pilot
include:
  - shared/base.yml
  - path: shared/settings.yml
    relativePaths: false
configs:
  Debug: debug
  Beta: release
  Release: release
packages:
  Quaymap:
    github: quaymap/quaymap-ios
    minorVersion: 4.2.0
  Charts:
    path: Packages/Charts
targetTemplates:
  App:
    type: application
    sources: \${target_name}
    settings:
      PRODUCT_NAME: \${shown}
targets:
  Pilot:
    templates: [App]
    templateAttributes: { shown: Harbour Pilot }
    platform: iOS
    dependencies:
      - target: Core
      - package: Quaymap
        products: [Quaymap, QuaymapOffline]
      - package: Charts
    info:
      path: Pilot/Info.plist
      properties:
        CFBundleVersion: $(CURRENT_PROJECT_VERSION)
        CFBundleShortVersionString: $(MARKETING_VERSION)
        UILaunchScreen: {}
    settings:
      base: &ids
        PRODUCT_BUNDLE_IDENTIFIER: example.maresia.pilot
        MARKETING_VERSION: "2.1"
        CURRENT_PROJECT_VERSION: 7
      configs:
        release:
          SWIFT_COMPILATION_MODE: wholemodule
        beta:
          PRODUCT_BUNDLE_IDENTIFIER: example.maresia.pilot.beta
  Core:
    type: framework
    platform: [iOS, tvOS]
    sources: [Core]
    settings: { GENERATE_INFOPLIST_FILE: true, <<: *ids }
`,
  "ios/shared/base.yml": "options:\n  deploymentTarget: { iOS: 15.0, tvOS: 16.0 }\nconfigFiles:\n  Release: Release.xcconfig\n",
  "ios/shared/Release.xcconfig": "QUAYMAP_KEY = qm_live_0123456789ab\n",
  "ios/shared/settings.yml": "settings:\n  base:\n    SWIFT_VERSION: 5.9\nfileGroups: [shared]\n",
  "ios/Pilot/PilotApp.swift":
    "import Core\nimport Quaymap\nimport SwiftUI\n\n@main\nstruct PilotApp: App {\n    init() {\n        Quaymap.start()\n    }\n\n    var body: some Scene { WindowGroup { Text(Core.name) } }\n}\n",
  "ios/Core/Core.swift": 'public enum Core {\n    public static let name = "Pilot"\n}\n',
  "ios/Packages/Charts/Package.swift":
    '// swift-tools-version:5.9\nimport PackageDescription\n\nlet package = Package(\n    name: "Charts",\n    platforms: [.iOS(.v15)],\n    products: [.library(name: "Charts", targets: ["Charts"])],\n    targets: [.target(name: "Charts")]\n)\n',
  "ios/Packages/Charts/Sources/Charts/Charts.swift": "public struct Chart {}\n",
};
