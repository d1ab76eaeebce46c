import Moorid
import SwiftUI

struct RouteNotes: View {
  var body: some View {
    Text("No notes for this route yet")
      .onAppear { Moorid.signIn() }
  }
}

/// Where the charts come from.
let chartHost = Bundle.main.object(forInfoDictionaryKey: "ChartHost") as? String
