import { lookUp } from "@gray-bench/core/design/lookup";
import type { Cable, Design } from "@gray-bench/core/design/model";
import { byText } from "@gray-bench/core/design/order";
import { conditionText } from "@gray-bench/core/design/conditions";
import { useMemo } from "react";
import { View } from "react-native";
import { OnPages } from "../attachments/OnPages";
import { Acts } from "../edits/Acts";
import { useDesign } from "../queries/useJobs";
import { Button, LinkLine } from "../kit/Button";
import { choose } from "../kit/choice";
import { formatLength, formatSize, keepTags } from "../kit/format";
import { thingHref } from "../kit/links";
import { Select } from "../kit/Select";
import { useSettings } from "../kit/settings";
import { Failed, Loading } from "../kit/States";
import { Body, Head, Mono, Small } from "../kit/Text";
import { Tray } from "../kit/Tray";
import { netActs } from "@gray-bench/core/routes/wire-acts";
import { addCableAct, addNetAct, cableActs, coreActs } from "@gray-bench/core/intake/cable-acts";

/** What is opened: nothing yet is chosen where it is empty. */
export interface Opened {
  cable?: string | undefined;
  net?: string | undefined;
}

/** Cables with their cores, and nets: each one opened and changed; new ones. */
export function NetworkTray({ job, cable, net }: { job: string } & Opened) {
  const shown = cable !== undefined || net !== undefined;
  const { data: design, error, refetch } = useDesign(job, shown);
  const open = (what: Opened): void => choose({ cable: undefined, net: undefined, ...what });
  return (
    <Tray className="gap-2 p-3" testID="network">
      <View className="flex-row flex-wrap items-center gap-2">
        <View className="min-w-0 flex-1">
          <Head>Cables and nets</Head>
        </View>
        <Button
          label="Cables"
          pressed={cable !== undefined}
          onPress={() => open(cable === undefined ? { cable: "" } : {})}
          testID="see-cables"
        />
        <Button
          label="Nets"
          pressed={net !== undefined}
          onPress={() => open(net === undefined ? { net: "" } : {})}
          testID="see-nets"
        />
      </View>
      {shown && error ? <Failed error={error} retry={() => void refetch()} /> : null}
      {shown && !design && !error ? <Loading text="Reading the design" /> : null}
      {design && cable !== undefined ? <Cables job={job} design={design} chosen={cable} /> : null}
      {design && net !== undefined ? <Nets job={job} design={design} chosen={net} /> : null}
    </Tray>
  );
}

export function Cables({ job, design, chosen }: { job: string; design: Design; chosen: string }) {
  const tags = useMemo(() => [...lookUp(design).cables.keys()].sort(byText), [design]);
  const cable = lookUp(design).cables.get(chosen);
  const adding = useMemo(() => [addCableAct(design)], [design]);
  return (
    <View className="gap-3">
      {tags.length > 0 ? (
        <Select
          label={`${tags.length} ${tags.length === 1 ? "cable" : "cables"}`}
          value={cable ? chosen : ""}
          choices={tags}
          choose={(tag) => choose({ cable: tag })}
          testID="choose-cable"
        />
      ) : (
        <Small>The design has no cable with the options that are chosen.</Small>
      )}
      {chosen !== "" && !cable ? (
        <Small role="status">There is no cable {keepTags(chosen)} with the options that are chosen.</Small>
      ) : null}
      <Acts job={job} acts={adding} label="Change the cables" about="a new cable" testID="cables" />
      {cable ? <CableDetails key={cable.tag} job={job} design={design} cable={cable} /> : null}
    </View>
  );
}

function CableDetails({ job, design, cable }: { job: string; design: Design; cable: Cable }) {
  const settings = useSettings();
  return (
    <View className="gap-2 border-t border-line pt-2" testID="cable">
      <Head>
        Cable {keepTags(cable.tag)}, {cable.type}
        {cable.outer ? `, ${formatLength(cable.outer, settings)} thick` : ""}
      </Head>
      <Body>
        from {cable.from ?? "?"} to {cable.to ?? "?"}
        {cable.gland ? `, entering at ${keepTags(cable.gland)}` : ""}
        {cable.glandTo ? `, at its other end at ${keepTags(cable.glandTo)}` : ""}
      </Body>
      {cable.when ? <Small>There with {conditionText(cable.when)}.</Small> : null}
      <Acts
        job={job}
        acts={cableActs(design, cable)}
        label={`Change cable ${cable.tag}`}
        about={cable.tag}
        testID="cable"
      />
      {cable.cores.map((c) => (
        <View key={c.core} className="flex-row flex-wrap items-center gap-x-3 gap-y-1 border-t border-line py-1">
          <Mono className="w-14">{c.core}</Mono>
          <Small className="w-28">
            {[c.colour, c.sizeMm2 ? formatSize(c.sizeMm2, settings) : null].filter(Boolean).join(", ") ||
              "as its cable"}
          </Small>
          <View className="min-w-45 flex-1">
            <Body>
              {keepTags(c.from ? `${c.from.device}:${c.from.pin}` : "?")} to{" "}
              {keepTags(c.to ? `${c.to.device}:${c.to.pin}` : (c.far ?? "?"))}
              {c.net ? `, net ${c.net}` : ""}
            </Body>
          </View>
          <Acts
            job={job}
            acts={coreActs(design, cable, c)}
            label={`Change core ${c.core}`}
            about={`${cable.tag} ${c.core}`}
            testID="core"
          />
        </View>
      ))}
      {cable.cores.length === 0 ? <Small>Its cores are not listed in the design.</Small> : null}
      <OnPages job={job} kind="cable" of={cable.tag} />
    </View>
  );
}

function Nets({ job, design, chosen }: { job: string; design: Design; chosen: string }) {
  const settings = useSettings();
  const names = useMemo(() => [...lookUp(design).nets.keys()].sort(byText), [design]);
  const net = lookUp(design).nets.get(chosen);
  const wires = lookUp(design).wires.filter(({ wire }) => wire.net === chosen).length;
  const adding = useMemo(() => [addNetAct()], []);
  return (
    <View className="gap-3">
      {names.length > 0 ? (
        <Select
          label={`${names.length} ${names.length === 1 ? "net" : "nets"}`}
          value={net ? chosen : ""}
          choices={names}
          choose={(name) => choose({ net: name })}
          testID="choose-net"
        />
      ) : (
        <Small>The design has no nets.</Small>
      )}
      {chosen !== "" && !net ? <Small role="status">There is no net {chosen} in the design.</Small> : null}
      <Acts job={job} acts={adding} label="Change the nets" about="a new net" testID="nets" />
      {net ? (
        <View className="gap-2 border-t border-line pt-2" testID="net">
          <Head>Net {net.name}</Head>
          <Body>
            {net.class ?? "no class"}
            {net.colour ? `, ${net.colour}` : ""}
            {net.sizeMm2 ? `, ${formatSize(net.sizeMm2, settings)}` : ""}
            {net.voltage ? `, ${net.voltage.v} V ${net.voltage.kind}` : ""}
            {net.currentA ? `, ${net.currentA} A` : ""}
          </Body>
          {wires > 0 ? (
            <LinkLine
              href={thingHref(job, "net", net.name)}
              label={`${wires} ${wires === 1 ? "wire" : "wires"} of it`}
              testID="net-wires"
            />
          ) : (
            <Small>No wire is of this net.</Small>
          )}
          <Acts
            job={job}
            acts={netActs(design, net.name)}
            label={`Change net ${net.name}`}
            about={net.name}
            testID="net"
          />
        </View>
      ) : null}
    </View>
  );
}
