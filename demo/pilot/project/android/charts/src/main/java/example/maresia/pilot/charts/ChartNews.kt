package example.maresia.pilot.charts

import example.gullpost.Gullpost

/** Asks for a message when a chart of the route is replaced. */
fun watchChart(number: String) {
    Gullpost.subscribe("charts/$number")
}
