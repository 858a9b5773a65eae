const path = require("node:path");
const { getDefaultConfig } = require("expo/metro-config");

const config = getDefaultConfig(__dirname);

// Zod would bring the words of every language (half a megabyte); the sentences here are our own.
const withoutLocales = (context, name, platform) => {
  if (/(^|\/)locales\/index\.(js|cjs)$/.test(name) && /[\\/]zod[\\/]/.test(context.originModulePath))
    return { type: "empty" };
  return context.resolveRequest(context, name, platform);
};

config.resolver.resolveRequest = withoutLocales;
config.cacheStores = ({ FileStore }) => [new FileStore({ root: path.join(__dirname, "..", ".cache", "metro") })];

module.exports = config;
