/** @type {import("jest").Config} */
module.exports = {
  displayName: "client",
  preset: "jest-expo/web",
  testMatch: ["<rootDir>/tests/**/*.test.{ts,tsx}"],
  testEnvironmentOptions: { customExportConditions: ["require", "default"] },
  transform: { "\\.mjs$": "babel-jest" },
  setupFiles: ["<rootDir>/tests/setup.ts"],
  moduleNameMapper: {
    "^@winter-bead/(core|contract)$": "<rootDir>/../$1/src/index.ts",
    "^@winter-bead/(core|contract)/(.*)$": "<rootDir>/../$1/$2",
  },
  transformIgnorePatterns: [
    "/node_modules/(?!(.*/)?((jest-)?react-native[^/]*|@react-native(-community)?|expo(nent)?|@expo(nent)?/.*|@expo-google-fonts/.*|react-navigation|@react-navigation/.*|react-native-svg|@tamagui/.*|d3-.*|internmap|pure-rand|fast-check|ml-[a-z-]+|is-any-array|uuid)/)",
  ],
};
