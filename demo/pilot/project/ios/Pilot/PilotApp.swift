import Brinelog
import Moorid
import Quaymap
import SwiftUI
import UIKit

@main
struct PilotApp: App {
  @UIApplicationDelegateAdaptor(PilotDelegate.self) private var delegate

  init() {
    Quaymap.start()
    Brinelog.start()
    Moorid.start()
    UserDefaults.standard.register(defaults: ["route": "harbour"])
  }

  var body: some Scene {
    WindowGroup {
      RouteNotes()
    }
  }
}

final class PilotDelegate: NSObject, UIApplicationDelegate {
  func application(
    _ application: UIApplication,
    didFinishLaunchingWithOptions options: [UIApplication.LaunchOptionsKey: Any]? = nil
  ) -> Bool {
    Quaymap.start()
    return true
  }
}
