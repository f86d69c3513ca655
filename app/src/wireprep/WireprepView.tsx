import { View } from "react-native";
import { jobHref } from "../kit/links";
import { Tabs } from "../kit/Tabs";
import { BatchPage } from "./BatchPage";
import { Batches } from "./Batches";
import { Card } from "./Card";
import type { Props } from "./choice";
import { Leads } from "./Leads";
import { Material } from "./Material";
import { NewBatch } from "./NewBatch";

const TABS = [
  ["batches", "Batches"],
  ["leads", "Leads"],
  ["material", "Material"],
] as const;

/** Leads: how each is made, in which batch, from what; and the card of whoever makes them. */
export function WireprepView(props: Props) {
  const { job, choice } = props;
  if (choice.show === "card" && choice.batch) return <Card key={choice.batch} {...props} batch={choice.batch} />;
  const tab = TABS.find(([t]) => t === choice.show)?.[0] ?? "batches";
  return (
    <View className="min-h-0 flex-1">
      <Tabs
        label="What is shown of the leads"
        now={tab}
        tabs={TABS.map(([id, title]) => ({ id, title, href: jobHref(job.code, "wireprep", { show: id }) }))}
      />
      {choice.batch && tab === "batches" ? (
        <BatchPage key={choice.batch} {...props} batch={choice.batch} />
      ) : choice.show === "new" ? (
        <NewBatch {...props} />
      ) : tab === "leads" ? (
        <Leads {...props} />
      ) : tab === "material" ? (
        <Material {...props} />
      ) : (
        <Batches {...props} />
      )}
    </View>
  );
}
