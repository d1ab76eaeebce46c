# Rules for the release build.
-keepattributes SourceFile,LineNumberTable
# The bridge asks for these by name.
-keep class example.maresia.deckpass.TicketReader* { *; }
