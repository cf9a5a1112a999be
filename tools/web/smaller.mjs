// A script made small: its style sheets without spaces, its private names short (those that no
// definition, no page and no element of the DOM knows).
import { readFileSync } from "node:fs";
import { minify } from "terser";

const PRIVATE = /^(?:definition|holder|given|told|timers|tell|exchanged|access_|holds|screen_|tree|shares|animation|latest|floats|speed|timing|span|kick|stiff|damp|look|same|still|words|(?!(?:owner|ghost)_$).*_)$/;
const source = readFileSync(process.argv[2], "utf8").replace(/(?<=sheet\(|usual = )`([^`]*)`/g, (_, css) =>
  "`" + css.replace(/\s+/g, " ").replace(/ ?([{};,>]) ?/g, "$1").replace(/: /g, ":").replace(/;}/g, "}").trim() + "`");
const { code } = await minify(source, {
  module: true, ecma: 2022,
  compress: { passes: 4, unsafe_arrows: true, unsafe_methods: true, keep_fargs: false, hoist_props: true, pure_getters: true },
  mangle: { properties: { regex: PRIVATE, keep_quoted: true } },
});
process.stdout.write(code + "\n");
