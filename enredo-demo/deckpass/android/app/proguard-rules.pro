# Rules for the release build.
-keepattributes SourceFile,LineNumberTable
