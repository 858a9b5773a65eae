module.exports = function babelConfig(api) {
  const isTest = api.env("test");
  return {
    presets: ["babel-preset-expo"],
    // Under Jest what is fetched on demand is fetched like everything else.
    plugins: isTest ? ["@babel/plugin-transform-dynamic-import"] : [],
  };
};
