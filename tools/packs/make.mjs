// Makes the packs of the shelf: library files in packs/, from open data in packages and from texts of our own. To be run by hand when the data or this
// changes: npm ci --prefix tools/packs && npm run make --prefix tools/packs
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { brotliDecompressSync } from "node:zlib";
import { characterEntities } from "character-entities";
import { ownPacks } from "./own.mjs";

const require = createRequire(import.meta.url);
const here = dirname(fileURLToPath(import.meta.url));
const root = join(here, "..", "..");
const read = (name) => JSON.parse(readFileSync(join(here, "node_modules", name), "utf8"));
const versionOf = (name) => read(`${name}/package.json`).version;

/** Only keys that no name holds end a word here. */
const plainKeys = [" ", "Tab", "Enter"];
const unicodeData = "/usr/share/unicode/UnicodeData.txt";

/** What an abbreviation may be made of: letters and digits of any script, and hyphens between them. */
const slug = (name) =>
  name
    .normalize("NFC")
    .toLowerCase()
    .replace(/[’']/gu, "")
    .replace(/[^\p{L}\p{M}\p{N}]+/gu, "-")
    .replace(/^-|-$/gu, "");

const after = (text, more = {}) => ({ kind: "abbreviation", text, timing: "closing-key", keepClosingKey: false, ...more });

/** Snippets of one place by name, each name once. */
function unique(snippets) {
  const taken = new Set();
  return snippets.filter(({ name }) => !taken.has(name.toUpperCase()) && taken.add(name.toUpperCase()));
}

function misspellings() {
  const source = "@cspell/dict-en-common-misspellings";
  const words = brotliDecompressSync(readFileSync(join(root, "src/DashSprout.Exchange/WordLists/english.tsv.br")))
    .toString("utf8")
    .split("\n")
    .map((line) => line.split("\t")[0]);
  const known = new Set(words);
  const common = new Set(words.filter((word) => /^[a-z]{4,}$/u.test(word)).slice(0, 2500));
  const { suggestWords } = read(`${source}/dict/dict-en.json`).dictionaryDefinitions[0];
  const wrong = new Map();
  for (const line of suggestWords) {
    const [typed, meant] = line.split("->");
    // What is a word itself, or may mean several, is no slip that can be mended unseen.
    if (!common.has(meant) || known.has(typed) || !/^[a-z]{4,}$/u.test(typed) || !isOneSlip(typed, meant)) continue;
    wrong.set(meant, [...(wrong.get(meant) ?? []), typed]);
  }
  const snippets = [...wrong]
    .toSorted(([one], [other]) => (one < other ? -1 : 1))
    .map(([meant, typed]) => ({
      name: meant,
      text: meant,
      key: meant,
      triggers: typed.slice(0, 6).map((text) => ({ kind: "abbreviation", text, case: "mirror" })),
    }));
  return {
    id: "misspellings-en",
    about: "Slips of one letter in common English words are mended as you type, and Backspace takes a mending back.",
    licence: "CC BY-SA 4.0",
    source: `${source} ${versionOf(source)}, words that are frequent and mean one thing only`,
    library: { name: "Common misspellings", backspaceTakesBack: true, snippets },
  };
}

/** Whether two neighbours were exchanged, or one letter left out, doubled or put in. */
function isOneSlip(typed, meant) {
  if (typed.length === meant.length) {
    const at = [...typed].findIndex((letter, place) => letter !== meant[place]);
    return at >= 0 && typed[at] === meant[at + 1] && typed[at + 1] === meant[at] && typed.slice(at + 2) === meant.slice(at + 2);
  }
  const [short, long] = typed.length < meant.length ? [typed, meant] : [meant, typed];
  if (long.length !== short.length + 1) return false;
  const at = [...short].findIndex((letter, place) => letter !== long[place]);
  return at < 0 || short.slice(at) === long.slice(at + 1);
}

function emoji(locale, language, words) {
  const groups = new Map(read(`emojibase-data/${locale}/messages.json`).groups.map(({ order, message }) => [order, message]));
  const taken = new Set();
  const folders = new Map();
  for (const { label, emoji: text, group, order } of read(`emojibase-data/${locale}/data.json`).toSorted((a, b) => (a.order ?? 0) - (b.order ?? 0))) {
    const abbreviation = `;${slug(label)}`;
    if (group === undefined || order === undefined || group === 2 || [...abbreviation].length > 64 || taken.has(abbreviation)) continue;
    taken.add(abbreviation);
    const name = groups.get(group);
    folders.set(name, [...(folders.get(name) ?? []), { name: label.replaceAll("/", "∕"), text, key: slug(label), triggers: [after(abbreviation)] }]);
  }
  return {
    id: `emoji-${locale}`,
    about: words,
    licence: "MIT",
    source: `emojibase-data ${versionOf("emojibase-data")}, by CLDR short names`,
    library: {
      name: `Emoji (${language})`,
      closingKeys: plainKeys,
      folders: [...folders].map(([name, snippets]) => ({ name, key: slug(name), snippets: unique(snippets) })),
    },
  };
}

function characters() {
  if (!existsSync(unicodeData)) throw new Error(`${unicodeData} is missing: install the Debian package unicode-data.`);
  const names = new Map(
    readFileSync(unicodeData, "utf8")
      .split("\n")
      .map((line) => line.split(";"))
      .filter(([, name]) => name && !name.startsWith("<"))
      .map(([code, name]) => [String.fromCodePoint(Number.parseInt(code, 16)), name.toLowerCase()]),
  );
  const byCharacter = new Map();
  for (const [entity, text] of Object.entries(characterEntities)) {
    if (text.codePointAt(0) < 0xa0 || [...text].length > 1 || !names.has(text) || /[\p{Z}\p{C}\p{M}]/u.test(text)) continue;
    byCharacter.set(text, [...(byCharacter.get(text) ?? []), entity]);
  }
  const snippets = (test) =>
    [...byCharacter]
      .filter(([text]) => test(text))
      .toSorted(([one], [other]) => one.codePointAt(0) - other.codePointAt(0))
      .map(([text, entities]) => ({
        name: names.get(text),
        text,
        key: text.codePointAt(0).toString(16),
        triggers: entities.toSorted().map((entity) => after(`;${entity}`, { case: "exact" })),
      }));
  const isAccented = (text) => /\p{Script=Latin}/u.test(text) && /\p{L}/u.test(text) && text.codePointAt(0) < 0x250;
  const places = {
    "Fractions and powers": (text) => /\p{No}/u.test(text),
    "Money": (text) => /\p{Sc}/u.test(text),
    "Greek": (text) => /\p{Script=Greek}/u.test(text),
    "Cyrillic": (text) => /\p{Script=Cyrillic}/u.test(text),
    "Arrows": (text) => /arrow|harpoon/u.test(names.get(text)),
    "Punctuation": (text) => /\p{P}/u.test(text),
    "Calculation": (text) => /\p{Sm}/u.test(text),
    "Other signs": (text) => /\p{S}/u.test(text),
  };
  const placeOf = (text) => Object.keys(places).find((place) => places[place](text));
  const source = `character-entities ${versionOf("character-entities")} (HTML's named character references) with names of Unicode`;
  return [
    {
      id: "symbols",
      about: "Fractions, arrows, signs and Greek letters by the names that HTML gives them: ;frac12 is ½, ;rarr is →.",
      licence: "MIT",
      source,
      library: {
        name: "Symbols and fractions",
        closingKeys: plainKeys,
        folders: Object.keys(places).map((name) => ({
          name,
          key: slug(name),
          snippets: snippets((text) => !isAccented(text) && placeOf(text) === name),
        })),
      },
    },
    {
      id: "accented-letters",
      about: "Letters with accents for keyboards that lack them: ;eacute is é, ;Auml is Ä, ;szlig is ß.",
      licence: "MIT",
      source,
      library: { name: "Accented letters", closingKeys: plainKeys, snippets: snippets(isAccented) },
    },
  ];
}

function codes() {
  const countries = Object.entries(read("i18n-iso-countries/langs/en.json").countries).map(([code, names]) => ({
    code,
    name: (Array.isArray(names) ? names[0] : names).replaceAll("/", "∕"),
  }));
  const currencies = require("currency-codes/data.js").filter(({ code }) => !/^X/u.test(code));
  const listed = (entries) =>
    unique(
      entries.map(({ code, name }) => ({ name, text: name, key: code, triggers: [after(`;${code}`, { case: "exact" })] })),
    );
  return {
    id: "iso-codes",
    about: "Names of countries by their two letters, of currencies by their three: ;PT is Portugal, ;NOK is Norwegian Krone.",
    licence: "MIT",
    source: `i18n-iso-countries ${versionOf("i18n-iso-countries")} (ISO 3166-1) and currency-codes ${versionOf("currency-codes")} (ISO 4217)`,
    library: {
      name: "Country and currency codes",
      closingKeys: plainKeys,
      folders: [
        { name: "Countries", key: "countries", snippets: listed(countries) },
        { name: "Currencies", key: "currencies", snippets: listed(currencies.map(({ code, currency }) => ({ code, name: currency }))) },
      ],
    },
  };
}

/** A library file in which each snippet is one line. */
function write({ id, about, licence, source, library }) {
  const line = (value) => JSON.stringify(value);
  const list = (values, indent, one) => (values.length === 0 ? "[]" : `[\n${values.map((value) => `${indent} ${one(value, `${indent} `)}`).join(",\n")}\n${indent}]`);
  const place = ({ folders = [], snippets = [], ...rest }, indent) =>
    `{${line(rest).slice(1, -1)}, "folders": ${list(folders, indent, place)}, "snippets": ${list(snippets, indent, line)}}`;
  const libraries = list([library], " ", place);
  const state = createHash("sha256").update(libraries).digest("hex").slice(0, 12);
  const pack = { id, about, licence, source, state };
  writeFileSync(
    join(root, "packs", `${id}.json`),
    `{\n "format": "dash-sprout-library",\n "version": 1,\n "pack": ${line(pack)},\n "libraries": ${libraries}\n}\n`,
  );
  const count = (one) => (one.snippets ?? []).length + (one.folders ?? []).reduce((sum, folder) => sum + count(folder), 0);
  console.log(`${id}: ${count(library)} snippets`);
}

mkdirSync(join(root, "packs"), { recursive: true });
const packs = [
  misspellings(),
  ...characters(),
  emoji("en", "English", "All emoji by their names in English: ;grinning-face, ;flag-portugal."),
  emoji("de", "German", "All emoji by their names in German: ;grinsendes-gesicht, ;flagge-portugal."),
  emoji("fr", "French", "All emoji by their names in French: ;visage-rieur, ;drapeau-portugal."),
  emoji("es", "Spanish", "All emoji by their names in Spanish: ;cara-sonriendo, ;bandera-portugal."),
  codes(),
  ...ownPacks,
];
for (const pack of packs) write(pack);
