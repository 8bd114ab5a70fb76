// The rooms of the page in their order: each knows only those before it. What a feature lets others have stands in its
// `index.ts` (functions, types, and how its view is loaded) and `parts.ts` (components that others build in); nobody
// reaches past them. The shell is the only one that knows all features.
// Checked by `npm run layers`, as part of ./test.
const shared = ["api", "theme", "words", "ui", "typing", "items", "rules"];
const features = [
  "bodies",
  "slips",
  "safety",
  "finder",
  "gather",
  "exchange",
  "history",
  "snippet",
  "libraries",
  "packs",
  "learning",
  "drill",
  "desk",
  "savings",
  "mirrors",
  "settings",
  "companion",
];
const order = [...shared, ...features, "shell"];

const later = order.slice(0, -1).map((room, at) => ({
  name: `${room}-knows-only-those-before-it`,
  severity: "error",
  from: { path: `^web/src/${room}/` },
  to: { path: `^web/src/(${order.slice(at + 1).join("|")})/` },
}));

/** @type {import("dependency-cruiser").IConfiguration} */
export default {
  forbidden: [
    ...later,
    {
      name: "no-circle",
      comment: "Two that need each other are one, or want a third.",
      severity: "error",
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ["type-only"] } },
    },
    {
      name: "by-the-door",
      comment: "A feature is entered by its index.ts or its parts.ts.",
      severity: "error",
      from: { path: "^web/src/([^/]+)/", pathNot: "\\.test\\.tsx?$" },
      to: { path: `^web/src/(${features.join("|")})/`, pathNot: ["^web/src/$1/", "/(index|parts)\\.ts$"] },
    },
    {
      name: "every-room-has-its-place",
      comment: "Name a new folder in the order above.",
      severity: "error",
      from: {},
      to: { path: "^web/src/[^/]+/", pathNot: `^web/src/(${order.join("|")})/` },
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    includeOnly: "^web/src",
    tsPreCompilationDeps: true,
  },
};
