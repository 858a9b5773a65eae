/** The order of the house: dependencies point one way, and nothing goes round in a circle. */
module.exports = {
  forbidden: [
    {
      name: "no-circle",
      comment:
        "Files that import each other can only be understood together: move what both need to a place of its own.",
      severity: "error",
      from: {},
      to: { circular: true },
    },
    {
      name: "no-circle-of-folders",
      comment: "A folder of the core is a room with one way in.",
      severity: "error",
      scope: "folder",
      from: { path: "^core/src/" },
      to: { circular: true, path: "^core/src/" },
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    exclude: { path: "(^|/)(dist|tests)/" },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.base.json" },
    enhancedResolveOptions: { extensions: [".ts", ".tsx", ".js", ".mjs", ".json"] },
  },
};
