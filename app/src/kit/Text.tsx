import type { ReactNode } from "react";
import { Text, type TextProps } from "react-native";
import { TYPE_PX } from "./tokens";

type Props = TextProps & { children: ReactNode; className?: string };

const SIZE = Object.keys(TYPE_PX).join("|");

/** What a class sets (type, size, colour); the given one of a kind replaces the standard one. */
const KINDS: readonly RegExp[] = [
  /^font-/,
  new RegExp(`^text-(${SIZE})$`),
  /^leading-/,
  new RegExp(`^text-(?!(${SIZE}|right|left|center)$)`),
];

/** Standard classes with the given ones: a given one replaces the standard one that sets the same. */
export function joinClasses(standard: string, given: string | undefined): string {
  if (!given) return standard;
  const own = given.split(" ");
  const kept = standard.split(" ").filter((c) => !KINDS.some((k) => k.test(c) && own.some((o) => k.test(o))));
  return [...kept, ...own].join(" ");
}

export const Body = ({ className, ...rest }: Props) => (
  <Text {...rest} className={joinClasses("font-text text-body text-graphite", className)} />
);

export const Small = ({ className, ...rest }: Props) => (
  <Text {...rest} className={joinClasses("font-text text-small text-slate", className)} />
);

export const Title = ({ className, ...rest }: Props) => (
  <Text
    role="heading"
    aria-level={1}
    {...rest}
    className={joinClasses("font-strong text-title text-graphite", className)}
  />
);

export const Head = ({ className, ...rest }: Props) => (
  <Text
    role="heading"
    aria-level={2}
    {...rest}
    className={joinClasses("font-strong text-body text-graphite", className)}
  />
);

/** Tags, wire numbers, coordinates. */
export const Mono = ({ className, ...rest }: Props) => (
  <Text {...rest} className={joinClasses("font-mono text-cell text-graphite", className)} />
);
