// Writes each asset of the build a second and third time, compressed, so that nothing is
// compressed while the application runs.
import { readdir, readFile, writeFile } from "node:fs/promises";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";

const folder = new URL("dist/assets/", import.meta.url);
const brotli = { params: { [constants.BROTLI_PARAM_QUALITY]: 11 } };

for (const name of await readdir(folder)) {
  if (!/\.(js|css|svg)$/.test(name)) continue;
  const plain = await readFile(new URL(name, folder));
  if (plain.length < 1000) continue;
  await writeFile(new URL(`${name}.br`, folder), brotliCompressSync(plain, brotli));
  await writeFile(new URL(`${name}.gz`, folder), gzipSync(plain, { level: 9 }));
}
