import Brinelog
import Quaymap
import SwiftUI

@main
struct PilotApp: App {
  init() {
    Brinelog.start()
    Quaymap.start()
  }

  var body: some Scene {
    WindowGroup {
      RouteNotes()
    }
  }
}
