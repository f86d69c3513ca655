import type { Part } from "@gray-bench/core/design/model";
import { useJob } from "../queries/useJobs";
import { Small } from "../kit/Text";
import { useLibraryVersions } from "../queries/useLibrary";

/** Fields of a part that stages compute with, as they are called here. */
const FIELDS = {
  pins: "pins",
  lossW: "loss",
  mounts: "mounts",
  holes: "holes",
  cooling: "curve",
  climate: "climate",
  duct: "inside",
} as const;
type Told = keyof typeof FIELDS;

/** Where what a part says comes from: the design file, or the library in the version that completes the job. */
export function Sources({
  job,
  part,
  fields = Object.keys(FIELDS) as Told[],
  testID = "part-sources",
}: {
  job: string;
  part: Part | undefined;
  fields?: readonly Told[];
  testID?: string;
}) {
  const hash = useJob(job).data?.libraryHash;
  const from = new Set(part?.fromLibrary ?? []);
  const own = fields.filter((f) => part?.[f] !== undefined && !from.has(f));
  const known = fields.filter((f) => from.has(f));
  const versions = useLibraryVersions(known.length > 0).data;
  if (own.length + known.length === 0) return null;
  const number = versions?.find((v) => v.hash === hash)?.number;
  const words = (some: readonly Told[]): string => some.map((f) => FIELDS[f]).join(", ");
  return (
    <Small testID={testID}>
      {known.length > 0 ? `${words(known)}: library${number === undefined ? "" : `, version ${number}`}` : ""}
      {known.length > 0 && own.length > 0 ? "; " : ""}
      {own.length > 0 ? `${words(own)}: design file` : ""}
    </Small>
  );
}
