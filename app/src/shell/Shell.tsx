import type { JobDetail } from "@gray-bench/contract/jobs";
import { Link } from "expo-router";
import { useEffect, useState, type ReactNode } from "react";
import { Text, View } from "react-native";
import Search from "lucide-react-native/icons/search";
import Settings2 from "lucide-react-native/icons/settings-2";
import { EditBar } from "../edits/EditBar";
import { SearchPanel } from "../search/SearchPanel";
import { Button } from "../kit/Button";
import { formatMoment } from "../kit/format";
import { jobHref } from "../kit/links";
import { Rule } from "../kit/Rule";
import { SettingsPanel } from "../kit/SettingsPanel";
import { useSettings } from "../kit/settings";
import { Shortcuts } from "../kit/Shortcuts";
import { useTextScale } from "../kit/textScale";
import { useKeys } from "../kit/useKeys";
import { useWide } from "../kit/useWide";
import { useReach } from "../kit/reach";
import { WorkBar } from "../busy/WorkBar";

type Panel = "search" | "settings" | "shortcuts" | null;

/** Head line, the Rule when a job is open, and the view. */
export function Shell({
  job,
  children,
  title,
  heading = false,
}: {
  job?: JobDetail | undefined;
  children: ReactNode;
  title: string;
  /** Reads the title out where the view shows none. */
  heading?: boolean;
}) {
  const wide = useWide();
  // Large text leaves room for the name of the job alone.
  const isLarge = useTextScale() > 1.3;
  const [panel, setPanel] = useState<Panel>(null);
  const { tokens } = useSettings();
  useKeys({ "/": () => setPanel("search"), "?": () => setPanel("shortcuts") });
  useEffect(() => {
    document.title = `${title} · Gray Bench`;
  }, [title]);
  return (
    <View className="flex-1 bg-paper">
      <SkipLink />
      <View role="banner" className="min-h-glove flex-row items-center gap-2 border-b py-1 border-line bg-paper px-3">
        <Link href="/" testID="home" aria-label="Gray Bench" className="min-h-touch py-3 pr-1">
          <Text className="font-strong text-name text-graphite">
            {isLarge && job && !wide ? "Bench" : "Gray Bench"}
          </Text>
        </Link>
        {job ? (
          <Link
            href={jobHref(job.code)}
            testID="to-desk"
            className="min-h-touch shrink py-3"
            numberOfLines={isLarge ? 2 : 1}
          >
            <Text className="font-mono text-cell text-harbour underline">{job.code}</Text>
            <Text className="font-text text-cell text-slate">
              {wide ? `  ${job.title}, rev ${job.revision}` : isLarge ? "" : `  rev ${job.revision}`}
            </Text>
          </Link>
        ) : null}
        <View className="flex-1" />
        <WorkBar job={job?.code} />
        <Button
          testID="open-search"
          label={wide ? "Search  /" : "Search"}
          bare={!wide}
          icon={<Search size={20} color={tokens.graphite} />}
          onPress={() => setPanel("search")}
        />
        <Button
          testID="open-settings"
          label="Preferences"
          bare
          icon={<Settings2 size={20} color={tokens.graphite} />}
          onPress={() => setPanel("settings")}
        />
      </View>
      <Connection />
      {job ? <EditBar job={job} /> : null}
      <View className={wide ? "min-h-0 flex-1 flex-row" : "min-h-0 flex-1"}>
        {job ? <Rule job={job.code} stages={job.stages} wide={wide} /> : null}
        <View role="main" id="content" tabIndex={-1} className="min-h-0 min-w-0 flex-1">
          {heading ? (
            <Text role="heading" aria-level={1} className="sr-only">
              {title}
            </Text>
          ) : null}
          {children}
        </View>
      </View>
      {panel === "search" ? <SearchPanel job={job?.code} close={() => setPanel(null)} /> : null}
      {panel === "settings" ? <SettingsPanel close={() => setPanel(null)} /> : null}
      {panel === "shortcuts" ? <Shortcuts close={() => setPanel(null)} /> : null}
    </View>
  );
}

/** Seen when the focus comes to it, first of all: past head line, edits and Rule to what the page is about. */
function SkipLink() {
  return (
    <a
      href="#content"
      className="skip"
      data-testid="skip"
      onClick={(e) => {
        e.preventDefault();
        document.getElementById("content")?.focus();
      }}
    >
      Skip to the content
    </a>
  );
}

/** Says that the network is gone and that what is on the screen still counts. */
function Connection() {
  const [online, setOnline] = useState(() => navigator.onLine);
  useEffect(() => {
    const hear = () => setOnline(navigator.onLine);
    window.addEventListener("online", hear);
    window.addEventListener("offline", hear);
    return () => {
      window.removeEventListener("online", hear);
      window.removeEventListener("offline", hear);
    };
  }, []);
  const reach = useReach();
  if (online && reach.reached) return null;
  const from = reach.reached || reach.from === null ? null : formatMoment(reach.from.toISOString());
  return (
    <View role="status" testID="offline" className="border-b border-ochre bg-tray px-3 py-2">
      <Text className="font-medium text-cell text-ochre">
        {online ? "The server does not answer." : "No connection."}{" "}
        {from === null ? "What was loaded before stays readable" : `What is shown is from ${from}`}; it is brought up to
        date when {online ? "it answers again" : "the connection is back"}.
      </Text>
    </View>
  );
}
