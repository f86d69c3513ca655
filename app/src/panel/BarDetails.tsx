import type { Design } from "@gray-bench/core/design/model";
import type { PlacedBar } from "@gray-bench/core/panel/result";
import { useMemo } from "react";
import { View } from "react-native";
import { Acts } from "../edits/Acts";
import { LinkLine } from "../kit/Button";
import { formatLength } from "../kit/format";
import { thingHref } from "../kit/links";
import { useSettings } from "../kit/settings";
import { Body, Head, Mono, Small } from "../kit/Text";
import { barActs } from "@gray-bench/core/panel/bar-acts";

/** A rail or a duct: where it lies, what it is, and what can be done with it. */
export function BarDetails({
  job,
  thing,
  bar,
  design,
}: {
  job: string;
  thing: "rail" | "duct";
  bar: PlacedBar;
  design: Design;
}) {
  const settings = useSettings();
  const acts = useMemo(() => barActs(design, thing, bar.tag), [design, thing, bar.tag]);
  const { x, y } = bar.outline;
  return (
    <View testID="bar-details" className="gap-2 p-3">
      <Head>
        {thing} <Mono className="font-monoStrong">{bar.tag}</Mono>
      </Head>
      <Body>
        {formatLength(bar.length, settings)} long, {bar.run === "right" ? "lying" : "upright"}
      </Body>
      <Small>
        on {bar.face}, lower left corner at {formatLength(x, settings)}, {formatLength(y, settings)}, part {bar.part}
      </Small>
      <Small>Drag it on the drawing; at one of its ends, that end.</Small>
      <Acts job={job} acts={acts} label={`Change this ${thing}`} about={bar.tag} />
      {thing === "duct" ? (
        <LinkLine href={thingHref(job, "duct", bar.tag)} label="Its fill and what lies in it" />
      ) : null}
    </View>
  );
}
