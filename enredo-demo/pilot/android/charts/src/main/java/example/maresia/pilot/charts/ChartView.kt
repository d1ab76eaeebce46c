package example.maresia.pilot.charts

import example.quaymap.MapView

typealias ChartView = MapView
