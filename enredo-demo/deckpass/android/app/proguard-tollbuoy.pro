# From the page of Tollbuoy.
-keep class example.tollbuoy.** { *; }
