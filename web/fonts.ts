import { mkdir, readFile, writeFile } from "node:fs/promises";
import { createRequire } from "node:module";
import subset from "subset-font";
import type { Plugin } from "vite";

const find = createRequire(import.meta.url);

/** The faces the theme names: two weights of text, one of figures. */
const faces = [
  {
    family: "Barlow Semi Condensed",
    weight: 400,
    file: "@fontsource/barlow-semi-condensed/files/barlow-semi-condensed-latin-400-normal.woff2",
  },
  {
    family: "Barlow Semi Condensed",
    weight: 600,
    file: "@fontsource/barlow-semi-condensed/files/barlow-semi-condensed-latin-600-normal.woff2",
  },
  {
    family: "JetBrains Mono",
    weight: 500,
    file: "@fontsource/jetbrains-mono/files/jetbrains-mono-latin-500-normal.woff2",
  },
];

const range = (from: number, to: number) =>
  Array.from({ length: to - from + 1 }, (_, i) => String.fromCodePoint(from + i)).join("");

/** What every screen shows, and the letters of other languages, which are fetched when a name has them. */
const parts = [
  {
    name: "plain",
    text: range(0x20, 0x7e) + "°±×·µ–—’“”…−→≈≤≥",
    unicode:
      "U+20-7E, U+B0-B1, U+D7, U+B7, U+B5, U+2013-2014, U+2019, U+201C-201D, U+2026, U+2212, U+2192, U+2248, U+2264-2265",
  },
  {
    name: "more",
    text: range(0xa0, 0xff) + "ŒœŠšŸŽž€",
    unicode: "U+A0-AF, U+B2-B4, U+B6, U+B8-D6, U+D8-FF, U+152-153, U+160-161, U+178, U+17D-17E, U+20AC",
  },
];

/** Writes the parts of the faces and their style sheet to where theme.css takes them from. */
async function write(into: string) {
  await mkdir(into, { recursive: true });
  let css = "";
  for (const face of faces) {
    const whole = await readFile(find.resolve(face.file));
    for (const part of parts) {
      const name = `${face.family.toLowerCase().replaceAll(" ", "-")}-${face.weight}-${part.name}.woff2`;
      await writeFile(`${into}/${name}`, await subset(whole, part.text, { targetFormat: "woff2" }));
      css += `@font-face { font-family: "${face.family}"; font-weight: ${face.weight}; font-display: swap; src: url("./${name}") format("woff2"); unicode-range: ${part.unicode}; }\n`;
    }
  }
  await writeFile(`${into}/fonts.css`, css);
}

/** Cuts the fonts that ship with the application to what its screens need. */
export const fonts = (): Plugin => ({ name: "fonts", config: () => write("node_modules/.fonts") });
