/**
 * Identifiers of the points at which the iOS system is extended. Source: Apple, "NSExtensionPointIdentifier", and the templates of Xcode's app
 * extensions.
 */
export const EXTENSION_POINTS: readonly string[] = [
  "com.apple.usernotifications.service",
  "com.apple.usernotifications.content-extension",
  "com.apple.widgetkit-extension",
  "com.apple.widget-extension",
  "com.apple.share-services",
  "com.apple.ui-services",
  "com.apple.services",
  "com.apple.intents-service",
  "com.apple.intents-ui-service",
  "com.apple.keyboard-service",
  "com.apple.photo-editing",
  "com.apple.fileprovider-nonui",
  "com.apple.fileprovider-actionsui",
  "com.apple.broadcast-services-upload",
  "com.apple.broadcast-services-setupui",
  "com.apple.callkit.call-directory",
  "com.apple.Safari.content-blocker",
  "com.apple.Safari.web-extension",
  "com.apple.Safari.extension",
  "com.apple.networkextension.packet-tunnel",
  "com.apple.networkextension.app-proxy",
  "com.apple.networkextension.filter-data",
  "com.apple.networkextension.filter-control",
  "com.apple.message-payload-provider",
  "com.apple.spotlight.index",
  "com.apple.identitylookup.message-filter",
  "com.apple.identitylookup.classification-ui",
  "com.apple.authentication-services-credential-provider-ui",
  "com.apple.classkit.context-provider",
  "com.apple.quicklook.preview",
  "com.apple.quicklook.thumbnail",
];

/** Entries of associated domains. Source: Apple, "Associated Domains Entitlement" (service, domain, mode). */
export const ASSOCIATED_DOMAIN = /^(applinks|webcredentials|activitycontinuation|appclips):(\*\.)?[\w-]+(\.[\w-]+)+(:\d+)?(\?[\w=+&-]+)?$/;

/** The entitlement that names them. */
export const ASSOCIATED_DOMAINS = "com.apple.developer.associated-domains";
