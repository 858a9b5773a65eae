const path = require("node:path");
const { getDefaultConfig } = require("expo/metro-config");

const config = getDefaultConfig(__dirname);
config.watchFolders = [path.join(__dirname, "../..")];
config.cacheStores = ({ FileStore }) => [
  new FileStore({ root: path.join(__dirname, "../..", ".cache", "metro-bare") }),
];

module.exports = config;
