module.exports = (api) => {
  api.cache.using(() => process.env.NODE_ENV);
  const test = process.env.NODE_ENV === "test";
  return {
    presets: [
      ["babel-preset-expo", test ? {} : { jsxImportSource: "nativewind" }],
      ...(test ? [] : ["nativewind/babel"]),
    ],
  };
};
