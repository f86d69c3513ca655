import type { FileOut } from "./design/file-out";
import type { Design } from "./design/model";
import type { OpenPoint } from "./design/open-points";
import type { Rules } from "./design/rules";
import { compute as intake } from "./intake/compute";
import { compute as panel } from "./panel/compute";
import type { PanelResult } from "./panel/result";
import { compute as routes } from "./routes/compute";
import { files as routesFiles, ROUTES_FILES } from "./routes/files";
import type { RoutesResult } from "./routes/result";
import type { StageName } from "./stage-names";

export interface StageInput {
  design: Design;
  /** The shop's rules; a job's own lie on top. */
  rules: Rules;
  /** Results of the stages named in `needs`. */
  results: Readonly<Record<string, unknown>>;
  /** Share done, 0 to 1. */
  progress?: (share: number) => void;
}

export interface StageResult {
  open: OpenPoint[];
}

export interface Stage {
  name: StageName;
  needs: readonly StageName[];
  compute(input: StageInput): StageResult;
  /** What `files` makes, by name. */
  fileNames: readonly string[];
  files?(result: StageResult): Promise<FileOut[]>;
}

/** The stages that are built, in the order they are computed. Whoever runs them knows none by name. */
export const STAGES: readonly Stage[] = [
  { name: "intake", needs: [], fileNames: [], compute: ({ design, rules }) => intake(design, rules) },
  { name: "panel", needs: [], fileNames: [], compute: ({ design }) => panel(design) },
  {
    name: "routes",
    needs: ["panel"],
    fileNames: ROUTES_FILES,
    compute: ({ design, rules, results, progress }) =>
      routes(design, rules, results.panel as PanelResult, (done, total) => progress?.(done / total)),
    files: (result) => routesFiles(result as RoutesResult),
  },
];
