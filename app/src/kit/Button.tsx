import { Link, type Href, type LinkProps } from "expo-router";
import type { ReactNode } from "react";
import { Pressable, Text } from "react-native";

interface Props {
  label: string;
  /** What stands on it, where that is shorter; the label begins with it. */
  text?: string;
  onPress: () => void;
  icon?: ReactNode;
  kind?: "solid" | "plain";
  /** Only the icon is shown; the label is read out. */
  bare?: boolean;
  pressed?: boolean;
  /** Whether what it opens is there. */
  expanded?: boolean;
  disabled?: boolean;
  testID?: string;
}

const LOOK = { solid: "bg-verdigris border-verdigris", plain: "bg-paper border-line" };

export function Button({
  label,
  text = label,
  onPress,
  icon,
  kind = "plain",
  bare = false,
  pressed,
  expanded,
  disabled = false,
  testID,
}: Props) {
  return (
    <Pressable
      testID={testID}
      role="button"
      aria-label={label}
      aria-pressed={pressed}
      aria-expanded={expanded}
      aria-disabled={disabled}
      disabled={disabled}
      onPress={onPress}
      className={`min-h-touch min-w-touch shrink flex-row items-center justify-center gap-2 rounded-edge border px-3 ${pressed ? "border-verdigris bg-tray" : LOOK[kind]} ${disabled ? "opacity-50" : ""}`}
    >
      {icon}
      {bare ? null : (
        <Text
          className={`shrink font-medium text-body ${kind === "solid" && !pressed ? "text-onVerdigris" : "text-graphite"}`}
        >
          {text}
        </Text>
      )}
    </Pressable>
  );
}

/** For a gloved hand and a hurried eye: what is done again and again on a card. */
export function BigButton({
  label,
  text = label,
  onPress,
  kind = "plain",
  grows = false,
  expanded,
  testID,
}: {
  label: string;
  /** Where it is said shorter or otherwise on the button itself. */
  text?: string;
  onPress: () => void;
  kind?: "solid" | "plain";
  grows?: boolean;
  expanded?: boolean;
  testID: string;
}) {
  return (
    <Pressable
      testID={testID}
      role="button"
      aria-label={label}
      aria-expanded={expanded}
      onPress={onPress}
      className={`min-h-17 items-center justify-center rounded-edge px-4 ${grows ? "flex-1" : ""} ${kind === "solid" ? "bg-verdigris" : "border border-graphite"}`}
    >
      <Text
        className={kind === "solid" ? "font-strong text-title text-onVerdigris" : "font-medium text-lead text-graphite"}
      >
        {text}
      </Text>
    </Pressable>
  );
}

/** A real link that looks like a line of text and is tall enough to hit. */
export function LinkLine({
  href,
  label,
  onPress,
  testID,
}: {
  href: Href;
  label: string;
  onPress?: LinkProps["onPress"];
  testID?: string;
}) {
  return (
    <Link
      href={href}
      onPress={onPress}
      testID={testID}
      className="min-h-touch py-3 font-medium text-body text-harbour underline"
    >
      {label}
    </Link>
  );
}
