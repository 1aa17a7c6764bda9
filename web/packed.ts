import { readdir, readFile, writeFile } from "node:fs/promises";
import { brotliCompress, constants } from "node:zlib";
import { promisify } from "node:util";
import type { Plugin } from "vite";

const pack = promisify(brotliCompress);

/** Packs what can be packed once, as small as it gets, beside the file itself. */
export const packed = (): Plugin => ({
  name: "packed",
  apply: "build",
  async closeBundle() {
    const names = (await readdir("dist/assets")).filter((name) => /\.(js|css)$/.test(name));
    await Promise.all(
      names.map(async (name) => {
        const raw = await readFile(`dist/assets/${name}`);
        await writeFile(
          `dist/assets/${name}.br`,
          await pack(raw, { params: { [constants.BROTLI_PARAM_QUALITY]: 11 } }),
        );
      }),
    );
  },
});
