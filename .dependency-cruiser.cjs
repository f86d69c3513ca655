/** Imports go down only. */
const stages = "intake|panel|routes|lineups|heat|metalwork|kits|wireprep|floor|handover";

module.exports = {
  forbidden: [
    { name: "no-circular", severity: "error", from: {}, to: { circular: true } },
    {
      name: "core-is-the-ground",
      severity: "error",
      from: { path: "^core/src" },
      to: { path: "^(contract|server|app|designs|standins|e2e|bench)/" },
    },
    {
      name: "contract-on-core",
      severity: "error",
      from: { path: "^contract/src" },
      to: { path: "^(server|app|designs|standins|e2e|bench)/" },
    },
    {
      name: "server-not-app",
      severity: "error",
      from: { path: "^server/src" },
      to: { path: "^(app|designs|standins|e2e|bench)/" },
    },
    {
      name: "app-not-server",
      severity: "error",
      from: { path: "^app/src" },
      to: { path: "^(server|designs|standins|e2e|bench)/" },
    },
    {
      name: "standins-know-nothing-of-us",
      comment:
        "A real machine would not either. What a stand-in made is compared with what was planned in tests alone.",
      severity: "error",
      from: { path: "^standins/src", pathNot: "\\.test\\.ts$" },
      to: { path: "^(core|contract|server|app|designs|e2e|bench)/" },
    },
    {
      name: "stages-meet-by-results",
      comment:
        "A stage may read another's result type and rules (and its sheet or way, which are functions of that result), and offer what it may be asked to change, never its computation.",
      severity: "error",
      from: { path: `^core/src/(${stages})/`, pathNot: "\\.test\\.ts$" },
      to: { path: `^core/src/(${stages})/`, pathNot: ["^core/src/$1/", "/(result|rules|acts|[a-z]+-acts)\\.ts$"] },
    },
    {
      name: "design-below-stages",
      severity: "error",
      from: { path: "^core/src/(design|formats|frame|library|shop|solve|wiring)/", pathNot: "\\.test\\.ts$" },
      to: { path: `^core/src/((${stages})/|stages\\.|run)`, pathNot: "/rules\\.ts$" },
    },
    {
      name: "rules-of-a-stage-are-read-by-all",
      comment:
        "What a shop decides about a stage is said below all of them: it knows the model and the kinds of rules.",
      severity: "error",
      from: { path: `^core/src/(${stages})/rules\\.ts$` },
      to: { path: "^core/src/", pathNot: "^core/src/(design/|stage-names\\.ts|shop/(rule-kinds|rule-forms)\\.ts)" },
    },
    {
      name: "the-model-is-below",
      comment: "The model knows neither the frame of stages nor what is worked out of it; solvers know no design.",
      severity: "error",
      from: { path: "^core/src/(design|solve)/", pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/(frame|library|wiring)/" },
    },
    {
      name: "solvers-know-no-design",
      severity: "error",
      from: { path: "^core/src/solve/", pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/design/(model|lookup|read|schema|rules|shop|open-points)\\.ts" },
    },
    {
      name: "faces-do-not-compute",
      comment:
        "An application fetches the faces of all stages: what computes, compares and writes stays with the server.",
      severity: "error",
      from: { path: "^core/src/((faces|edits|rules|files|bench)\\.ts|[a-z]+/(face|acts|[a-z]+-acts)\\.ts)$" },
      to: {
        path: `^core/src/(${stages})/(stage|compute|compare|files)\\.ts|^core/src/(run|stages)\\.ts`,
        reachable: true,
      },
    },
    {
      name: "kit-below-all-views",
      comment: "Shared pieces know no stage, no search and no edits.",
      severity: "error",
      from: { path: "^app/src/kit/", pathNot: "\\.test\\.tsx?$" },
      to: { path: `^app/src/(?!kit/)|^core/src/(${stages})/` },
    },
    {
      name: "views-of-stages-stand-alone",
      comment:
        "What several of them draw or ask for has a room of its own: sheet, working, queries, edits, events, kit.",
      severity: "error",
      from: { path: `^app/src/(${stages})/`, pathNot: "\\.test\\.tsx?$" },
      to: { path: `^app/src/(${stages}|jobs|shop)/`, pathNot: "^app/src/$1/" },
    },
    {
      name: "queries-are-below-views",
      comment: "What is asked of the server, and the sheet a panel is drawn on, know no view.",
      severity: "error",
      from: { path: "^app/src/(queries|sheet|working)/", pathNot: "\\.test\\.tsx?$" },
      to: { path: "^app/src/(?!queries/|sheet/|working/|kit/|events/)" },
    },
    {
      name: "shown-things-do-not-compute",
      comment: "A screen never runs a stage.",
      severity: "error",
      from: { path: "^app/src", pathNot: "\\.test\\.tsx?$" },
      to: { path: `^core/src/(run|stages|stale)\\.ts|^core/src/(${stages})/(stage|compute|compare|files)\\.ts` },
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    exclude: { path: "(^|/)(node_modules|dist)/" },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["import", "require", "node", "default"],
      extensions: [".ts", ".tsx", ".js", ".mjs", ".json"],
    },
  },
};
