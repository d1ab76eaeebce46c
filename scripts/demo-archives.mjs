// Writes the archives of the sample apps: small ones, made of texts and of the heads of binaries.
import { mkdirSync, writeFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";
import AdmZip from "adm-zip";

const libs = path.join(path.dirname(fileURLToPath(import.meta.url)), "../demo/kiosk/project/android/app/libs");

function zip(files) {
  const made = new AdmZip();
  for (const [name, content] of Object.entries(files)) {
    made.addFile(name, Buffer.from(content));
    // The same bytes whenever it is written.
    made.getEntry(name).header.time = new Date(2026, 0, 1);
  }
  return made.toBuffer();
}

/** The head of a library for 64-bit ARM, with one segment. Layout: System V ABI, "ELF-64 Object File Format". */
function nativeLibrary(alignment) {
  const head = Buffer.alloc(64 + 56);
  head.write("7f454c46020101", "hex");
  head.writeUInt16LE(3, 16);
  head.writeUInt16LE(183, 18);
  head.writeBigUInt64LE(64n, 32);
  head.writeUInt16LE(64, 52);
  head.writeUInt16LE(56, 54);
  head.writeUInt16LE(1, 56);
  head.writeUInt32LE(1, 64);
  head.writeBigUInt64LE(BigInt(alignment), 64 + 48);
  return head;
}

/** The head of a class file for Java 8. Layout: The Java Virtual Machine Specification, 4.1. */
const classFile = Buffer.from([0xca, 0xfe, 0xba, 0xbe, 0, 0, 0, 52]);

const tidewire = {
  "AndroidManifest.xml": `<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="example.tidewire">
    <uses-sdk android:minSdkVersion="21" />
    <uses-permission android:name="android.permission.INTERNET" />
    <uses-permission android:name="android.permission.POST_NOTIFICATIONS" android:maxSdkVersion="34" />
    <application>
        <meta-data android:name="example.tidewire.STATION" android:value="\${tidewireStation}" />
    </application>
</manifest>
`,
  "META-INF/com/android/build/gradle/aar-metadata.properties":
    "aarFormatVersion=1.0\naarMetadataVersion=1.0\ncoreLibraryDesugaringEnabled=true\n",
  "classes.jar": zip({ "example/tidewire/Feed.class": classFile, "example/tidewire/Station.class": classFile }),
  "jni/arm64-v8a/libtide.so": nativeLibrary(4096),
  "jni/armeabi-v7a/libtide.so": nativeLibrary(4096),
  "jni/armeabi-v7a/libtidesound.so": nativeLibrary(4096),
};

const own = path.join(libs, "../src/main/jniLibs/arm64-v8a");
mkdirSync(libs, { recursive: true });
mkdirSync(own, { recursive: true });
writeFileSync(path.join(own, "libtide.so"), nativeLibrary(16384));
writeFileSync(path.join(libs, "tidewire-1.4.aar"), zip(tidewire));
writeFileSync(path.join(libs, "tidewire-feed-1.4.jar"), zip({ "example/tidewire/Feed.class": classFile }));
