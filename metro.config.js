const { getDefaultConfig } = require('expo/metro-config');
const { withNativeWind } = require('nativewind/metro');

const config = getDefaultConfig(__dirname);
const whole = config.resolver.resolveRequest;
config.resolver.resolveRequest = (context, name, platform) =>
  // its modules for bundlers import namespaces of what has none; Metro then breaks at start
  name === 'class-validator'
    ? { type: 'sourceFile', filePath: require.resolve('class-validator/cjs/index.js') }
    : (whole ?? context.resolveRequest)(context, name, platform);

module.exports = withNativeWind(config, { input: './global.css' });
