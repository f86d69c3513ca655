import type { SearchHit, SearchReply } from "@gray-bench/contract/search";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Link, router, type Href } from "expo-router";
import { useDeferredValue, useRef, useState } from "react";
import { View } from "react-native";
import { call } from "../kit/api";
import { Field } from "../kit/Field";
import { formatCount } from "../kit/format";
import { pinHref, thingHref } from "../kit/links";
import { Overlay } from "../kit/Overlay";
import { Empty, Failed } from "../kit/States";
import { Mono, Small } from "../kit/Text";

const useSearch = (query: string, job: string | undefined) =>
  useQuery<SearchReply>({
    queryKey: ["search", query, job],
    queryFn: ({ signal }) =>
      call<SearchReply>(`/search?${new URLSearchParams({ q: query, ...(job ? { job } : {}) }).toString()}`, {
        signal,
      }),
    enabled: query !== "",
    placeholderData: keepPreviousData,
  });

/** So many the server gives. */
const MOST_HITS = 30;

const LIST = "search-list";

/** Search for any tag, number or name, in all jobs, the open one first. Arrows walk the hits, Enter opens one. */
export function SearchPanel({ job, close }: { job: string | undefined; close: () => void }) {
  const [text, setText] = useState("");
  const [chosen, setChosen] = useState(0);
  const query = useDeferredValue(text.trim());
  const { data, error } = useSearch(query, job);
  const hits = query === "" ? [] : (data?.hits ?? []);
  const at = Math.min(chosen, hits.length - 1);
  const walk = (to: number): void => {
    if (hits.length === 0) return;
    const next = (to + hits.length) % hits.length;
    setChosen(next);
    document.getElementById(`${LIST}-${next}`)?.scrollIntoView({ block: "nearest" });
  };
  const followed = useRef(false);
  const follow = (): void => {
    followed.current = true;
    close();
  };
  const open = (): void => {
    const hit = hits[at];
    if (!hit) return;
    follow();
    router.push(hitHref(hit));
  };
  return (
    <Overlay title="Search" close={close} testID="search" leads={() => followed.current}>
      <View className="gap-2 p-3">
        <Field
          label="Tag, wire number, net or part"
          value={text}
          change={(next) => {
            setText(next);
            setChosen(0);
          }}
          hint="-K1?  or  214"
          testID="search-text"
          keys={{ ArrowDown: () => walk(at + 1), ArrowUp: () => walk(at - 1), Enter: open }}
          walks={{ list: LIST, row: at < 0 ? undefined : `${LIST}-${at}` }}
        />
        {error ? <Failed error={error} /> : null}
        {query !== "" && data?.hits.length === 0 ? (
          <Empty
            title="Nothing found"
            text={`No tag, number or name fits "${query}", nor does any that is a letter away. * stands for any text, ? for one character.`}
          />
        ) : null}
        <View role={"listbox" as "list"} id={LIST} aria-label="What was found" testID="search-hits">
          {hits.map((h, i) => (
            <Hit
              key={`${h.job}/${h.thing}/${h.of}`}
              id={`${LIST}-${i}`}
              hit={h}
              job={job}
              chosen={i === at}
              follow={follow}
            />
          ))}
        </View>
        {query !== "" && data && data.looked < data.jobs && data.hits.length < MOST_HITS ? (
          <Small testID="search-cut">
            Tags and numbers were looked for in {data.looked} of {formatCount(data.jobs)} jobs, those due first. To
            search another one, open it first.
          </Small>
        ) : null}
      </View>
    </Overlay>
  );
}

/** Of a pin its device, with the pin chosen. */
const hitHref = ({ job, thing, of, pin }: SearchHit): Href =>
  pin === undefined ? thingHref(job, thing, of) : pinHref(job, of, pin);

interface HitProps {
  id: string;
  hit: SearchHit;
  job: string | undefined;
  chosen: boolean;
  follow: () => void;
}

function Hit({ id, hit, job, chosen, follow }: HitProps) {
  return (
    <Link
      href={hitHref(hit)}
      onPress={follow}
      id={id}
      role="option"
      aria-selected={chosen}
      className={`border-b border-l-4 border-b-line py-2 pl-2 ${chosen ? "border-l-verdigris bg-tray" : "border-l-transparent"}`}
    >
      <View className="min-h-touch w-full justify-center">
        <View className="flex-row items-baseline gap-2">
          <Mono className="text-harbour underline">{hit.pin === undefined ? hit.of : `${hit.of}:${hit.pin}`}</Mono>
          <Small>
            {hit.pin === undefined ? hit.thing : "pin"}
            {hit.job === job ? "" : ` in ${hit.job}`}
          </Small>
        </View>
        <Small numberOfLines={1}>{hit.text}</Small>
      </View>
    </Link>
  );
}
