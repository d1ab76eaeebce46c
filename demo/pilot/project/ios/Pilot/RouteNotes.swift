import SwiftUI

struct RouteNotes: View {
  var body: some View {
    Text("No notes for this route yet")
    RouteMark()
  }
}
