import type { SearchHit } from "@gray-bench/contract/api";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Link } from "expo-router";
import { useDeferredValue, useState } from "react";
import { View } from "react-native";
import { call } from "../kit/api";
import { Field } from "../kit/Field";
import { thingHref } from "../kit/links";
import { Overlay } from "../kit/Overlay";
import { Empty, Failed } from "../kit/States";
import { Mono, Small } from "../kit/Text";

const useSearch = (query: string, job: string | undefined) =>
  useQuery<SearchHit[]>({
    queryKey: ["search", query, job],
    queryFn: ({ signal }) =>
      call<{ hits: SearchHit[] }>(`/search?${new URLSearchParams({ q: query, ...(job ? { job } : {}) }).toString()}`, {
        signal,
      }).then((r) => r.hits),
    enabled: query !== "",
    placeholderData: keepPreviousData,
  });

/** Search for any tag, number or name, in all jobs, the open one first. */
export function SearchPanel({ job, close }: { job: string | undefined; close: () => void }) {
  const [text, setText] = useState("");
  const query = useDeferredValue(text.trim());
  const { data, error } = useSearch(query, job);
  return (
    <Overlay title="Search" close={close} testID="search">
      <View className="gap-2 p-3">
        <Field
          label="Tag, wire number, net or part"
          value={text}
          change={setText}
          hint="-K1?  or  214"
          testID="search-text"
        />
        {error ? <Failed error={error} /> : null}
        {query !== "" && data?.length === 0 ? (
          <Empty
            title="Nothing found"
            text={`No tag, number or name fits "${query}". * stands for any text, ? for one character.`}
          />
        ) : null}
        <View role="list" testID="search-hits">
          {query === ""
            ? null
            : data?.map((h) => <Hit key={`${h.job}/${h.thing}/${h.of}`} hit={h} job={job} close={close} />)}
        </View>
      </View>
    </Overlay>
  );
}

function Hit({ hit, job, close }: { hit: SearchHit; job: string | undefined; close: () => void }) {
  return (
    <View role="listitem">
      <Link href={thingHref(hit.job, hit.thing, hit.of)} onPress={close} className="border-b border-line py-2">
        <View className="min-h-[44px] w-full justify-center">
          <View className="flex-row items-baseline gap-2">
            <Mono className="text-harbour underline">{hit.of}</Mono>
            <Small>
              {hit.thing}
              {hit.job === job ? "" : ` in ${hit.job}`}
            </Small>
          </View>
          <Small numberOfLines={1}>{hit.text}</Small>
        </View>
      </Link>
    </View>
  );
}
