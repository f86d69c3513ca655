import type { Option } from "../design/model";
import type { KnownAct } from "../faces";
import type { Shaped } from "../frame/act";

type Known = Pick<Option, "key" | "text" | "choices" | "chosen">;

/** Names with commas between them. */
const names = (text: unknown): string[] =>
  String(text ?? "")
    .split(",")
    .map((t) => t.trim())
    .filter((t) => t !== "");

/** What can be done with an option. */
export function optionActs({ key, text, choices, chosen }: Known): KnownAct[] {
  return [
    {
      id: `choose-${key}`,
      label: "Choose",
      title: "Choose",
      about: `${text}: now ${chosen}. Devices, wires and cables that hang on it come and go with it.`,
      kind: "choose",
      payloads: [{ option: key }],
      shown: true,
      asks: [{ field: "choice", label: text, as: "choice", choices: choices.filter((c) => c !== chosen) }],
    },
    {
      id: `change-${key}`,
      label: "Change",
      title: "Change option",
      about: `What option ${key} is called, and what may be chosen. A choice on which something hangs stays.`,
      kind: "change option",
      payloads: [{ option: key }],
      asks: [
        { field: "text", label: "What it is", as: "text", now: text },
        { field: "choices", label: "Choices, with commas between", as: "text", now: choices.join(", ") },
      ],
      shape: ({ values, set }): Shaped => ({
        ok: true,
        payload: {
          option: key,
          ...(set.has("text") ? { text: values.text } : {}),
          ...(set.has("choices") ? { choices: names(values.choices) } : {}),
        },
      }),
    },
    {
      id: `remove-${key}`,
      label: "Delete",
      title: "Delete option",
      about: `Option ${key} out of the design. What hangs on it is given another condition first.`,
      kind: "remove option",
      payloads: [{ option: key }],
      asks: [],
    },
  ];
}

export const addOptionAct = (options: readonly Known[]): KnownAct => ({
  id: "add-option",
  label: "Add an option",
  title: "Add option",
  about: "Devices, wires and cables can then be there with some of its choices only: their condition.",
  kind: "add option",
  payloads: [{}],
  asks: [
    { field: "key", label: "Short name", as: "text" },
    { field: "text", label: "What it is", as: "text" },
    { field: "choices", label: "Choices, with commas between", as: "text" },
    { field: "chosen", label: "Chosen now, the first when empty", as: "text", optional: true },
  ],
  shape({ values }): Shaped {
    const key = String(values.key);
    const choices = names(values.choices);
    if (options.some((o) => o.key === key))
      return { ok: false, field: "key", reason: `There is an option ${key} already.` };
    if (choices.length === 0) return { ok: false, field: "choices", reason: "Name two choices at least." };
    const chosen = values.chosen ? String(values.chosen) : choices[0]!;
    if (!choices.includes(chosen))
      return { ok: false, field: "chosen", reason: `It is none of the choices: ${choices.join(", ")}.` };
    return { ok: true, payload: { key, text: values.text, choices, chosen } };
  },
});
