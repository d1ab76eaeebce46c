import SwiftUI

struct RouteMark: View {
  var body: some View {
    Image(systemName: "mappin")
  }
}
