/** In the place of Expo Router's native stack, of which this app shows none: its router is used, its views are not. */
exports.createNativeStackNavigator = () => ({ Navigator: () => null });
exports.initScreensFeatureFlags = () => undefined;
