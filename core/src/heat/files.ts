import { believable } from "./balance";
import type { Design } from "../design/model";
import type { FileOut } from "../frame/file-out";
import { toCsv, type Cell } from "../formats/csv";
import { toXlsx, XLSX_TYPE } from "../formats/xlsx";
import { toPdf } from "../formats/pdf";
import { reportSheets } from "./report";
import { proposalFor } from "./verdict";
import type { HeatResult, ZoneHeat } from "./result";

interface Table {
  name: string;
  head: string[];
  rows: Cell[][];
}

/** Figures of a zone, one a row; `rests_on` says what they rest on where that is not the design alone. */
function figuresOf(z: ZoneHeat): Cell[][] {
  const rests =
    z.fallbackW > 0
      ? `${Math.round(z.fallbackW)} W of fallbacks`
      : z.missing.length > 0
        ? `${z.missing.length} losses missing`
        : "";
  const row = (figure: string, value: Cell, unit: string, on = rests): Cell[] => [z.zone, figure, value, unit, on];
  return [
    row("loss", z.lossW, "W"),
    row("surface", z.effectiveM2, "m2", ""),
    row("coefficient", z.wPerK, "W/K", ""),
    row("inside_without_cooling", believable(z.insideWithoutC), "C"),
    row("cooling_needed", z.coolingNeededW, "W"),
    row("fan_flow", z.fanFlowM3h, "m3/h"),
    row("heater_needed", z.heaterNeededW, "W"),
    row("heater_dry_needed", z.dryNeededW, "W"),
    row("heater_to_choose", Math.max(0, z.heaterNeededW, z.dryNeededW), "W"),
    row("dew_point", z.dewPointC, "C", "damp air as stated"),
    row("unit", z.units.map((u) => u.part).join("; "), "", ""),
    row(
      "capacity",
      z.units.length > 0 ? z.carriedW : null,
      "W",
      z.units.some((u) => u.unsafe)
        ? "beyond the curve, carries less"
        : z.units.some((u) => u.beyond)
          ? "beyond the curve"
          : "",
    ),
    row("heated", z.units.length > 0 ? z.heatedW : null, "W", ""),
    row("duty", z.units.length > 0 ? z.dutyPercent : null, "%"),
    ...(["cools", "heats"] as const).flatMap((does): Cell[][] => {
      const best = proposalFor(z, does);
      const name = does === "cools" ? "cooling" : "heating";
      if (typeof best === "string") return [row(`proposed_${name}`, best, "", "")];
      return [
        row(`proposed_${name}`, best.parts.map((p) => `${p.count} x ${p.number}`).join(" + "), "", "proposed"),
        row(`proposed_${name}_capacity`, best.capacityW, "W", "proposed"),
        row(`proposed_${name}_duty`, best.dutyPercent, "%", "proposed"),
      ];
    }),
  ];
}

export const heatTable = ({ zones }: HeatResult): Table => ({
  name: "heat",
  head: "zone,figure,value,unit,rests_on".split(","),
  rows: zones.flatMap(figuresOf),
});

export const heatDevicesTable = ({ zones }: HeatResult): Table => ({
  name: "heat-devices",
  head: "zone,device,part,loss_w,share,diversity,counted_w,around_c,limit_c,mark,hottest_w_dm2,may_carry".split(","),
  rows: zones.flatMap((z) =>
    z.devices.map((d): Cell[] => [
      z.zone,
      d.device,
      d.part,
      d.lossW,
      d.share,
      d.diversity,
      d.countedW,
      d.aroundC,
      d.limitC,
      d.fallback ? "median" : d.lossW === null ? "missing" : "",
      d.hotWDm2,
      d.derated,
    ]),
  ),
});

/** More zones are in the tables alone. */
const MOST_REPORTED = 100;

/** The files of this stage. */
export async function files({ job, parts }: Pick<Design, "job" | "parts">, result: HeatResult): Promise<FileOut[]> {
  const title = `${job.code} ${job.title}`;
  const reported = { ...result, zones: result.zones.slice(0, MOST_REPORTED) };
  const tables = [heatTable(result), heatDevicesTable(result)];
  return [
    ...tables.map(({ name, head, rows }) => ({ name: `${name}.csv`, type: "text/csv", bytes: toCsv(head, rows) })),
    {
      name: "heat.xlsx",
      type: XLSX_TYPE,
      bytes: await toXlsx(...tables.map(({ name, head, rows }) => ({ name, header: head, widths: [], rows }))),
    },
    {
      name: "heat.pdf",
      type: "application/pdf",
      bytes: await toPdf(`${title}, heat`, reportSheets(reported, title, parts)),
    },
  ];
}
