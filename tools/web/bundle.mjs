// A folder's main.js bundled as a front-end team would: node bundle.mjs WITH FROM TO, where WITH is
// one of the bundlers below. Pages load TO/main.js.
import { resolve } from "node:path";

const [, , bundler, from, to] = process.argv;
const entry = resolve(from, "main.js"), out = resolve(to);

const BUNDLERS = {
  async vite() {
    const { build } = await import("vite");
    await build({
      root: resolve(from), base: "./", logLevel: "error", configFile: false,
      define: { "process.env.NODE_ENV": '"production"' },
      build: { outDir: out, assetsInlineLimit: 0, rollupOptions: { input: entry, output: { entryFileNames: "main.js" } } },
    });
  },
  async webpack() {
    const { default: webpack } = await import("webpack");
    await new Promise((done, failed) => webpack({
      entry, mode: "production", experiments: { outputModule: true },
      output: { path: out, filename: "main.js", module: true, publicPath: "auto" },
    }, (problem, stats) => problem || stats.hasErrors() ? failed(problem ?? new Error(stats.toString({ all: false, errors: true }))) : done()));
  },
  async rollup() {
    const { rollup } = await import("rollup");
    const { importMetaAssets } = await import("@web/rollup-plugin-import-meta-assets");
    const bundle = await rollup({ input: entry, plugins: [importMetaAssets()] });
    await bundle.write({ dir: out, format: "es", entryFileNames: "main.js" });
    await bundle.close();
  },
};

await BUNDLERS[bundler]();
