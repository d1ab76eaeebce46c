/**
 * Components of the platform's own libraries that apps name in their manifests. Sources: developer.android.com, "FileProvider", "App Startup",
 * "WorkManager" (custom initialization, long-running workers), "MediaButtonReceiver", "AppLocalesMetadataHolderService" (per-app languages), "Jetpack
 * Glance"; read 2026-11.
 */
export const LIBRARY_COMPONENTS: ReadonlySet<string> = new Set([
  "androidx.core.content.FileProvider",
  "androidx.startup.InitializationProvider",
  "androidx.work.impl.foreground.SystemForegroundService",
  "androidx.media.session.MediaButtonReceiver",
  "androidx.appcompat.app.AppLocalesMetadataHolderService",
]);
