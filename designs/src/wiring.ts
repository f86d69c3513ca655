import type { Colour, Net, NetClass, PinRef, When, Wire } from "@gray-bench/core/design/model";

export interface NetSpec {
  class: NetClass;
  colour?: Colour;
  sizeMm2?: number;
  currentA?: number;
  voltage?: Net["voltage"];
  when?: When;
}

/** `-K1:A1` */
export function pin(text: string): PinRef {
  const at = text.indexOf(":");
  return { device: text.slice(0, at), pin: text.slice(at + 1) };
}

/** Draws up nets and wires: every net is a chain from pin to pin, wires numbered in order. */
export class Wiring {
  readonly nets: Net[] = [];
  readonly wires: Wire[] = [];
  readonly #known = new Map<string, Net>();

  /**
   * Joins the pins in a chain. More chains of a known net may follow; where their colour or size
   * differs from the net's, the wires themselves say so.
   */
  chain(name: string, spec: NetSpec, pins: readonly string[]): void {
    const { when, ...given } = spec;
    const net: Net = this.#known.get(name) ?? { name, ...given };
    if (!this.#known.has(name)) {
      this.#known.set(name, net);
      this.nets.push(net);
    }
    for (let i = 1; i < pins.length; i++) {
      this.wires.push({
        number: String(this.wires.length + 1),
        net: name,
        from: pin(pins[i - 1]!),
        to: pin(pins[i]!),
        strand: "fine",
        ...(spec.colour !== net.colour ? { colour: spec.colour } : {}),
        ...(spec.sizeMm2 !== net.sizeMm2 ? { sizeMm2: spec.sizeMm2 } : {}),
        ...(when ? { when } : {}),
      });
    }
  }
}

export const range = (n: number, from = 1): number[] => Array.from({ length: n }, (_, i) => from + i);
