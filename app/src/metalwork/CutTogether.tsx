import type { BarList } from "@gray-bench/core/metalwork/result";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { View } from "react-native";
import { useJobs } from "../queries/useJobs";
import { call } from "../kit/api";
import { Button } from "../kit/Button";
import { choose } from "../kit/choice";
import { Field } from "../kit/Field";
import { Select } from "../kit/Select";
import { Small } from "../kit/Text";
import type { MetalworkChoice } from "./choice";

const MOST = 100;
const PANELS = /^([1-9]\d?|100)$/;

/** Jobs that are cut together, as the server takes them: `LARK-2601:2,HILL-2604`; null where this job is cut alone. */
export function togetherOf(job: string, { with: others, panels }: MetalworkChoice): string | null {
  const own = panels !== undefined && PANELS.test(panels) ? panels : "1";
  if (own === "1" && !others) return null;
  return [`${job}:${own}`, ...(others ? others.split(",") : [])].join(",");
}

export const togetherHref = (jobs: string, as: string): string =>
  `/api/cuts?${new URLSearchParams({ jobs, as }).toString()}`;

/** Bars of several jobs; nothing is asked where this job is cut alone. */
export const useTogether = (jobs: string | null) =>
  useQuery({
    queryKey: ["cuts", jobs],
    queryFn: ({ signal }) =>
      call<{ bars: BarList[] }>(`/cuts?${new URLSearchParams({ jobs: jobs! }).toString()}`, { signal }).then(
        (r) => r.bars,
      ),
    enabled: jobs !== null,
  });

/** How many panels, and which other jobs, are cut from the same bars. */
export function CutTogether({ job, choice }: { job: string; choice: MetalworkChoice }) {
  const [typed, setTyped] = useState<string | null>(null);
  const { jobs = [] } = useJobs();
  const others = choice.with ? choice.with.split(",") : [];
  const codes = others.map((o) => o.split(":")[0]!);
  const free = jobs.map((j) => j.code).filter((c) => c !== job && !codes.includes(c));
  const panels = typed ?? choice.panels ?? "1";
  const wrong = !PANELS.test(panels);
  return (
    <View className="gap-2 pt-1" testID="cut-together">
      <View className="flex-row flex-wrap items-end gap-3">
        <View className="w-38">
          <Field
            label="Equal panels"
            value={panels}
            change={(text) => {
              setTyped(text);
              if (PANELS.test(text)) choose({ panels: text === "1" ? undefined : text }, true);
            }}
            testID="panels"
          />
        </View>
        {free.length > 0 ? (
          <Select
            label="Cut with another job"
            value=""
            choices={free}
            none="choose …"
            choose={(code) => code !== "" && choose({ with: [...others, code].join(",") })}
            testID="cut-with"
          />
        ) : null}
      </View>
      {wrong ? <Small className="text-brick">Write a whole number from 1 to {MOST}.</Small> : null}
      {others.length > 0 ? (
        <View className="flex-row flex-wrap gap-2">
          {others.map((o) => (
            <Button
              key={o}
              label={`Without ${o.split(":")[0]!}`}
              onPress={() => choose({ with: others.filter((x) => x !== o).join(",") || undefined })}
              testID={`without-${o.split(":")[0]!}`}
            />
          ))}
        </View>
      ) : null}
    </View>
  );
}
