const path = require('node:path');
const { getDefaultConfig } = require('expo/metro-config');
const { withNativeWind } = require('nativewind/metro');

const MODULES = path.join(__dirname, 'node_modules');
const ROUTER = path.join(MODULES, 'expo-router/build');
const NOTHING = { type: 'empty' };
const file = (...parts) => ({ type: 'sourceFile', filePath: path.join(...parts) });

const NO_STACK_VIEW = file(__dirname, 'scripts', 'metro', 'noStackView.cjs');

/** Parts of React Native that nothing here shows, and that its index brings along. */
const UNUSED_OF_WEB = [
  'CheckBox',
  'ImageBackground',
  'KeyboardAvoidingView',
  'Picker',
  'ProgressBar',
  'SectionList',
  'Switch',
  'TouchableHighlight',
  'TouchableNativeFeedback',
  'YellowBox',
];

/**
 * What packages bring along that this app never shows, by the module that asks for it: of Expo Router the views of stacks and tabs, its
 * list of routes and the document's head, for there is one Slot; of the drawing package its reader of SVG files. Together they would be
 * a seventh of what the first screen loads.
 */
const INSTEAD = {
  'expo-router/build/index.js': { './stack': NOTHING, './color': NOTHING },
  'expo-router/build/exports.js': {
    './layouts/Tabs': NOTHING,
    './layouts/experimental-stack': NOTHING,
    './views/Sitemap': NOTHING,
    './views/useSitemap': NOTHING,
  },
  'expo-router/build/qualified-entry.js': { './head': file(__dirname, 'scripts', 'metro', 'noHead.cjs') },
  'expo-router/build/ExpoRoot.js': { './views/Sitemap': NOTHING, './screensFeatureFlags': NO_STACK_VIEW },
  'expo-router/build/layouts/StackClient.js': {
    './stack-utils': NOTHING,
    '../fork/native-stack/createNativeStackNavigator': NO_STACK_VIEW,
  },
  ...Object.fromEntries(
    ['views/ErrorBoundary.js', 'views/Toast.js'].map((module) => [
      `expo-router/build/${module}`,
      {
        '../react-navigation/bottom-tabs': file(
          ROUTER,
          'react-navigation/bottom-tabs/utils/BottomTabBarHeightContext.js',
        ),
      },
    ]),
  ),
  'react-native-svg/lib/module/ReactNativeSVG.web.js': { './xml': NOTHING },
  'react-native-web/dist/index.js': Object.fromEntries(UNUSED_OF_WEB.map((part) => [`./exports/${part}`, NOTHING])),
  // sentences are compiled when the app is built
  ...(process.env.NODE_ENV === 'production'
    ? { '@lingui/core/dist/index.mjs': { '@lingui/message-utils/compileMessage': NOTHING } }
    : {}),
};

const config = getDefaultConfig(__dirname);
const whole = config.resolver.resolveRequest;
config.resolver.resolveRequest = (context, name, platform) => {
  const from = path.relative(MODULES, context.originModulePath).replaceAll(path.sep, '/');
  return INSTEAD[from]?.[name] ?? (whole ?? context.resolveRequest)(context, name, platform);
};

module.exports = withNativeWind(config, { input: './global.css' });
