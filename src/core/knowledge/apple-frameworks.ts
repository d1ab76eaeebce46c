/**
 * Modules of Apple's platforms: they bring nothing of an SDK. Source: developer.apple.com, "Technologies" (frameworks for iOS), read 2026-11-29.
 */
export const APPLE_MODULES: ReadonlySet<string> = new Set(
  `AddressBookUI AssetsLibrary CommonCrypto CoreAudioKit GLKit IOKit IOSurface NewsstandKit OpenAL OpenGLES QuickLookUI iAd
  ARKit AVFAudio AVFoundation AVKit Accelerate Accessibility Accounts ActivityKit AdServices AdSupport AddressBook AppIntents
  AppTrackingTransparency AudioToolbox AuthenticationServices BackgroundTasks CFNetwork CallKit CarPlay Charts ClockKit CloudKit Combine Contacts
  ContactsUI CoreAudio CoreBluetooth CoreData CoreFoundation CoreGraphics CoreHaptics CoreImage CoreLocation CoreML CoreMIDI CoreMedia CoreMotion
  CoreNFC CoreServices CoreSpotlight CoreTelephony CoreText CoreTransferable CoreVideo CryptoKit Darwin DeviceActivity DeviceCheck Dispatch EventKit
  EventKitUI ExternalAccessory FileProvider Foundation GameKit GameplayKit HealthKit HomeKit ImageIO Intents IntentsUI JavaScriptCore LinkPresentation
  LocalAuthentication MLCompute MapKit MediaAccessibility MediaPlayer MessageUI Messages Metal MetalKit MetricKit MobileCoreServices
  MultipeerConnectivity NaturalLanguage NearbyInteraction Network NetworkExtension NotificationCenter OSLog ObjectiveC Observation PDFKit PassKit
  PencilKit Photos PhotosUI PushKit PushToTalk QuartzCore QuickLook QuickLookThumbnailing RealityKit ReplayKit SafariServices SceneKit ScreenTime
  Security SensorKit Social SoundAnalysis Speech SpriteKit StoreKit Swift SwiftData SwiftUI SystemConfiguration TipKit Translation UIKit
  UniformTypeIdentifiers UserNotifications UserNotificationsUI VideoToolbox Vision VisionKit WatchConnectivity WeatherKit WebKit WidgetKit WorkoutKit
  XCTest os simd`.split(/\s+/),
);
