import SwiftUI

struct RouteNotes: View {
  var body: some View {
    Text("No notes for this route yet")
    RouteMark()
  }
}

/// Where the watch app finds the notes.
let sharedNotes = FileManager.default.containerURL(forSecurityApplicationGroupIdentifier: "group.example.maresia.pilot")

/// Where the charts come from.
let chartHost = Bundle.main.object(forInfoDictionaryKey: "ChartHost") as? String
