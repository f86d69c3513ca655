import type { FaceWork } from "@gray-bench/core/metalwork/result";
import { View } from "react-native";
import { Chips } from "../kit/Chips";
import { jobHref } from "../kit/links";
import { Empty } from "../kit/States";
import { Tabs } from "../kit/Tabs";
import { useWide } from "../kit/useWide";
import { Bars } from "./Bars";
import type { Props } from "./choice";
import { Entries } from "./Entries";
import { OneFace } from "./OneFace";
import { Saw } from "./Saw";
import { pageTabs, aspectTabs, PAGES } from "./tabs";

/** The face a thing has its holes in, and the first of them. */
function whereIs(faces: readonly FaceWork[], of: string | undefined): { face: FaceWork; hole: number } | null {
  if (of === undefined) return null;
  for (const face of faces) {
    const hole = face.holes.find((h) => h.from.some((o) => o.of === of));
    if (hole) return { face, hole: hole.number };
    if (face.notDrilled.some((n) => n.of === of)) return { face, hole: 0 };
  }
  return null;
}

/** Every face with its holes, in the order they are made; bars as they are cut; cables as they come in. */
export function MetalworkView(props: Props) {
  const { job, result, choice } = props;
  const { faces } = result;
  const wide = useWide();
  const about = whereIs(faces, choice.device ?? choice.rail ?? choice.duct);
  const page = choice.cable === undefined ? PAGES.find(([p]) => p === choice.page)?.[0] : "entries";
  const shown = choice.face === undefined ? (about?.face ?? faces[0]) : faces.find((f) => f.face === choice.face);
  return (
    <View className="min-h-0 flex-1">
      <View className="flex-row">
        <View className="min-w-0 flex-1">
          <Chips
            tight
            label="Faces"
            shown={page === undefined ? shown?.face : undefined}
            chips={faces.map((f) => ({
              name: f.face,
              href: jobHref(job, "metalwork", { face: f.face, ...(choice.show ? { show: choice.show } : {}) }),
              testID: `face-${f.face}`,
            }))}
          />
        </View>
        {wide ? (
          <View className="justify-end border-l border-line">
            <Tabs label="For all faces" now={page ?? ""} tabs={pageTabs(job)} />
          </View>
        ) : null}
      </View>
      {page !== undefined && !wide ? (
        <Tabs
          label="What is shown"
          now={page}
          tabs={[...aspectTabs(job, choice.face ?? faces[0]?.face, undefined, wide), ...pageTabs(job)]}
        />
      ) : null}
      {page !== undefined ? (
        page === "bars" ? (
          <Bars {...props} />
        ) : page === "saw" ? (
          <Saw {...props} />
        ) : (
          <Entries {...props} />
        )
      ) : shown ? (
        <OneFace
          key={shown.face}
          {...props}
          work={shown}
          choice={about?.hole && choice.hole === undefined ? { ...choice, hole: String(about.hole) } : choice}
        />
      ) : faces.length === 0 ? (
        <Empty
          title="No hole"
          text="Nothing that is screwed on stands on a face yet. Parts of the library say their hole patterns."
        />
      ) : (
        <Empty title={`${choice.face} has no hole`} text="Choose a face above." />
      )}
    </View>
  );
}
