const { withEntitlementsPlist } = require("expo/config-plugins");

module.exports = (config) =>
  withEntitlementsPlist(config, (changed) => {
    changed.modResults["aps-environment"] = "production";
    return changed;
  });
