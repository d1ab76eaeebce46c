module.exports = {
  dependencies: {
    "@moorid/react-native": {
      platforms: {
        ios: null, // signing in with the old screen until the new one is ready
      },
    },
  },
};
