import type { ReactNode } from "react";
import { Text, type TextProps } from "react-native";

type Props = TextProps & { children: ReactNode; className?: string };

/** What a class sets; the given one of a kind replaces the standard one. */
const KINDS: readonly RegExp[] = [/^font-/, /^text-\[/, /^leading-/, /^text-(?!\[|right|left|center)/];

/** Standard classes with the given ones: a given one replaces the standard one that sets the same. */
export function joinClasses(standard: string, given: string | undefined): string {
  if (!given) return standard;
  const own = given.split(" ");
  const kept = standard.split(" ").filter((c) => !KINDS.some((k) => k.test(c) && own.some((o) => k.test(o))));
  return [...kept, ...own].join(" ");
}

export const Body = ({ className, ...rest }: Props) => (
  <Text {...rest} className={joinClasses("font-text text-[15px] leading-[21px] text-graphite", className)} />
);

export const Small = ({ className, ...rest }: Props) => (
  <Text {...rest} className={joinClasses("font-text text-[13px] leading-[18px] text-slate", className)} />
);

export const Title = ({ className, ...rest }: Props) => (
  <Text
    role="heading"
    aria-level={1}
    {...rest}
    className={joinClasses("font-strong text-[20px] leading-[26px] text-graphite", className)}
  />
);

export const Head = ({ className, ...rest }: Props) => (
  <Text
    role="heading"
    aria-level={2}
    {...rest}
    className={joinClasses("font-strong text-[15px] leading-[20px] text-graphite", className)}
  />
);

/** Tags, wire numbers, coordinates. */
export const Mono = ({ className, ...rest }: Props) => (
  <Text {...rest} className={joinClasses("font-mono text-[14px] leading-[20px] text-graphite", className)} />
);
