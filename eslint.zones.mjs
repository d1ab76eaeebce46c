/**
 * The rooms of the core from left to right: each imports only what stands left of it. `settings` and `syntax` read what people and tools
 * write; `gather` makes facts of it, and all that stands right of it sees facts and no files.
 */
const ROOMS = [
  ["model"],
  ["versions", "knowledge"],
  ["files"],
  ["syntax"],
  ["evaluate"],
  ["settings"],
  ["gather"],
  ["derive"],
  ["needs"],
  ["sheets"],
  ["rules"],
  ["project"],
  ["fleet"],
];

/** Beyond their order: what a room must not see although it stands left of it. */
const CLOSED = [
  { room: "files", from: ["versions", "knowledge"], message: "files are text" },
  { room: "syntax", from: ["files", "versions", "knowledge"], message: "syntax reads text and knows neither files nor platforms" },
  { room: "evaluate", from: ["files", "knowledge"], message: "evaluation works on trees and values" },
  { room: "derive", from: ["files", "syntax", "evaluate", "settings", "gather"], message: "views see facts, not files" },
  { room: "rules", from: ["files", "syntax", "evaluate", "gather", "sheets"], message: "rules see the model, not files" },
];

/** Inside the largest room: frameworks know platforms and packages, and neither the reverse nor each other's work. */
const GATHERING = [
  { target: "platforms", from: ["frameworks", "code"], message: "platforms know neither frameworks nor source code" },
  { target: "packages", from: ["frameworks", "code"], message: "packages know neither frameworks nor source code" },
  { target: "code", from: ["frameworks"], message: "source code is read alike for all frameworks" },
];

const core = (room) => `./src/core/${room}`;

/** Zones for `import-x/no-restricted-paths`. */
export const zones = [
  { target: "./src/core", from: ["./src/views", "./src/commands"], message: "the core has no interface code" },
  ...ROOMS.flatMap((rooms, index) =>
    rooms.map((room) => ({
      target: core(room),
      from: [...ROOMS.slice(index + 1).flat(), ...rooms.filter((other) => other !== room)].map(core),
      message: "a room imports only what stands left of it: see docs/architecture.md",
    })),
  ).filter(({ from }) => from.length > 0),
  ...CLOSED.map(({ room, from, message }) => ({ target: core(room), from: from.map(core), message })),
  ...GATHERING.map(({ target, from, message }) => ({
    target: core(`gather/${target}`),
    from: from.map((room) => core(`gather/${room}`)),
    message,
  })),
  {
    target: "./src/views",
    from: ["./src/commands", ...["files", "syntax", "evaluate", "gather", "sheets"].map(core)],
    message: "views print reports and surveys",
  },
];
