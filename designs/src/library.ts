import type { Category, Clamp, Colour, Exit, Hole, Part, Pin } from "@gray-bench/core/design/model";

/**
 * The invented library of the demo jobs. Makers, numbers and figures are made up; sizes are of the
 * order such parts have, so that a drawn cabinet looks like one.
 */

interface ClampSpec {
  clamp: Clamp;
  sizeMin: number;
  sizeMax: number;
  tail: number;
  strip: number;
  conductors: number;
}

const CONTROL: ClampSpec = {
  clamp: "push-in",
  sizeMin: 0.25,
  sizeMax: 2.5,
  tail: 14,
  strip: 10,
  conductors: 2,
};
const POWER: ClampSpec = { clamp: "screw", sizeMin: 0.75, sizeMax: 16, tail: 20, strip: 14, conductors: 2 };
const HEAVY: ClampSpec = { clamp: "screw", sizeMin: 2.5, sizeMax: 35, tail: 28, strip: 18, conductors: 2 };
const STUD: ClampSpec = { clamp: "stud", sizeMin: 1, sizeMax: 35, tail: 15, strip: 12, conductors: 4 };
const PLUG: ClampSpec = { clamp: "plug", sizeMin: 0.25, sizeMax: 1.5, tail: 25, strip: 7, conductors: 1 };

/** A row of pins spread evenly over the width. */
function row(names: readonly string[], w: number, y: number, z: number, exit: Exit, spec: ClampSpec): Pin[] {
  return names.map((name, i) => ({
    name,
    x: Math.round(((i + 0.5) * w * 10) / names.length) / 10,
    y,
    z,
    exit,
    ...spec,
  }));
}

interface Body {
  number: string;
  maker: string;
  text: string;
  category: Category;
  w: number;
  h: number;
  d: number;
}

type Extras = Omit<Partial<Part>, keyof Body>;

const part = (body: Body, extras: Extras): Part => ({ ...body, ...extras });

const onRail = (h: number): Extras => ({ mounts: [{ kind: "rail", datumY: h / 2 }] });

function corners(w: number, h: number, inset: number, thread: string): Hole[] {
  return [
    [inset, inset],
    [w - inset, inset],
    [inset, h - inset],
    [w - inset, h - inset],
  ].map(([x, y]) => ({ kind: "thread", x: x!, y: y!, thread }));
}

/** Pins in two rows, above and below the body's middle. */
function twoSided(body: Body, top: readonly string[], bottom: readonly string[], spec: ClampSpec, extras: Extras): Part {
  const z = Math.round(body.d * 0.6);
  return part(body, {
    pins: [...row(top, body.w, body.h - 9, z, "up", spec), ...row(bottom, body.w, 9, z, "down", spec)],
    ...onRail(body.h),
    ...extras,
  });
}

const stock = (place: string, pack = 1) => ({ stock: { place, pack } });

const OPERATOR_HOLE: Hole[] = [{ kind: "round", x: 15, y: 15, d: 22.3, notch: { to: 24.1, w: 3.2 } }];

function operator(number: string, text: string, pins: readonly string[], category: Category, extras: Extras): Part {
  return part(
    { number, maker: "Quillmark", text, category, w: 30, h: 30, d: 58 },
    {
      mounts: [{ kind: "door" }],
      holes: OPERATOR_HOLE,
      pins: row(pins, 30, 15, 46, "out", { ...CONTROL, tail: 12 }),
      ...extras,
    },
  );
}

/** @param chamber width that is left for leads, where a partition keeps the rest for data cables */
const ductPart = (number: string, across: number, height: number, chamber?: number): Part =>
  part(
    {
      number,
      maker: "Fenwright",
      text: `wiring duct ${across} × ${height}${chamber === undefined ? "" : `, ${chamber} mm chamber for leads`}`,
      category: "duct",
      w: 2000,
      h: across,
      d: height,
    },
    {
      duct: { innerW: chamber ?? across - 4, innerH: height - 6 },
      perforation: { first: 25, pitch: 50, slot: 12 },
      mounts: [{ kind: "plate" }],
      weightKg: 0.9,
      ...stock(`D-01-0${across / 20}${chamber === undefined ? "" : "-2"}`, 1),
    },
  );

const wirePart = (number: string, sizeMm2: number, outer: number, colour: Colour, place: string): Part =>
  part(
    {
      number,
      maker: "Brasslark",
      text: `single core ${sizeMm2} mm² fine, ${colour}`,
      category: "wire",
      w: 100_000,
      h: outer,
      d: outer,
    },
    { wire: { sizeMm2, outer, strand: "fine", colour }, ...stock(place, 100) },
  );

/** Reels by size and colour, with the outer diameters of the shop's table, in the order they hang. */
const REELS: readonly [sizeMm2: number, outer: number, colours: readonly Colour[]][] = [
  [0.5, 2.5, ["BN", "GN", "WH", "YE"]],
  [0.75, 2.7, ["BU"]],
  [1, 2.8, ["BU"]],
  [1.5, 3.4, ["BK", "BU", "RD", "WH"]],
  [2.5, 4.1, ["BK", "GNYE", "WH"]],
  [4, 4.8, ["BK", "BU"]],
  [6, 5.3, ["GNYE"]],
  [16, 8.1, ["BK", "GNYE"]],
];
const reels = REELS.flatMap(([size, outer, colours]) => colours.map((colour) => ({ size, outer, colour }))).map(({ size, outer, colour }, i) =>
  wirePart(`BL-W${String(size).replace(".", "")}${colour}`, size, outer, colour, `R-0${1 + Math.floor(i / 6)}-${String((i % 6) + 1).padStart(2, "0")}`),
);

const cablePart = (number: string, text: string, cores: number, sizeMm2: number, outer: number, screened: boolean): Part =>
  part({ number, maker: "Brasslark", text, category: "cable", w: 100_000, h: outer, d: outer }, { cable: { cores, sizeMm2, outer, screened }, ...stock("R-06-02", 50) });

export const MODULE_W = 25;
export const MODULE_SLOTS = 8;
const HEAD_W = 62;

const DRIVE_CONTROL = ["24V", "0V", "STO1", "STO2", "DI1", "DI2", "DO1", "DO2", "AI+", "AI-", "B+", "B-"];

/** The same part with the channel of each pin: pins of one channel are joined inside. */
const inChannels = (terminal: Part, channels: Record<string, string>): Part => ({
  ...terminal,
  pins: terminal.pins!.map((p) => ({ ...p, channel: channels[p.name]! })),
});

/** Units that keep the air: cooling for door, side and roof, fans, heaters, an exchanger. All invented; d is what reaches inside. */
function climateParts(): Part[] {
  const unit = (number: string, text: string, [w, h, d]: [number, number, number], climate: NonNullable<Part["climate"]>, more: Extras & { weightKg: number; place: string }): Part => {
    const { place, ...extras } = more;
    return part(
      {
        number,
        maker: "Tamarind Thermal",
        text,
        category: climate.kind === "heater" ? "heater" : climate.kind === "filter fan" ? "fan" : "cooling",
        w,
        h,
        d,
      },
      {
        mounts: [{ kind: climate.on?.includes("plate") ? "plate" : "door" }],
        pins: row(["L", "N", "PE"], w, 20, d * 0.6, "out", CONTROL),
        // Invented, and believable: what it draws at 230 V, and the fuse above that.
        ...(climate.powerW === undefined ? {} : { currentA: Math.round((climate.powerW / 230 / 0.85) * 10) / 10 }),
        // What is on the plate stands on two screws; what is in a wall needs its opening, and a screw at each corner.
        holes: climate.on?.includes("plate")
          ? [
              { kind: "thread", x: w / 2, y: 8, thread: "M5" },
              { kind: "thread", x: w / 2, y: h - 8, thread: "M5" },
            ]
          : [{ kind: "rect", x: 22, y: 22, w: w - 44, h: h - 44, r: 4 }, ...corners(w, h, 10, "M6")],
        climate: {
          ...climate,
          supplyV: 230,
          fuseA: (climate.powerW ?? 0) > 700 ? 16 : (climate.powerW ?? 0) > 200 ? 10 : 6,
          ip: climate.on?.includes("plate") ? 20 : 54,
        },
        ...extras,
        ...stock(place),
      },
    );
  };
  const cooling = (at3535: number) => ({
    curve: [
      { insideC: 35, outsideC: 25, capacityW: Math.round(at3535 * 1.1) },
      { insideC: 35, outsideC: 35, capacityW: at3535 },
      { insideC: 35, outsideC: 50, capacityW: Math.round(at3535 * 0.76) },
      { insideC: 45, outsideC: 25, capacityW: Math.round(at3535 * 1.24) },
      { insideC: 45, outsideC: 35, capacityW: Math.round(at3535 * 1.15) },
      { insideC: 45, outsideC: 50, capacityW: Math.round(at3535 * 0.92) },
    ],
  });
  const openings = (w: number, h: number) => ({
    blows: { x: w * 0.15, y: h * 0.72, w: w * 0.7, h: h * 0.2 },
    draws: { x: w * 0.15, y: h * 0.08, w: w * 0.7, h: h * 0.2 },
    freeMm: 80,
  });
  const sides: NonNullable<Part["climate"]>["on"] = ["door", "left", "right"];
  return [
    unit(
      "TT-CU600",
      "cooling unit 600 W, door or side",
      [280, 400, 40],
      { kind: "cooling unit", on: sides, powerW: 290, noiseDb: 59, priceClass: 3, ...openings(280, 400) },
      { cooling: { ...cooling(600), airflowM3h: 310, powerW: 290 }, weightKg: 19, place: "A-06-02" },
    ),
    unit(
      "TT-CU1000",
      "cooling unit 1,000 W, door or side",
      [330, 480, 45],
      { kind: "cooling unit", on: sides, powerW: 450, noiseDb: 61, priceClass: 4, ...openings(330, 480) },
      { cooling: { ...cooling(1000), airflowM3h: 440, powerW: 450 }, weightKg: 27, place: "A-06-03" },
    ),
    unit(
      "TT-CU2500",
      "cooling unit 2,500 W, side",
      [390, 950, 45],
      { kind: "cooling unit", on: ["left", "right"], powerW: 1080, noiseDb: 67, priceClass: 7, ...openings(390, 950) },
      { cooling: { ...cooling(2500), airflowM3h: 900, powerW: 1080 }, weightKg: 58, place: "A-06-04" },
    ),
    unit(
      "TT-CR2000",
      "cooling unit 2,000 W, roof",
      [600, 380, 35],
      { kind: "cooling unit", on: ["roof"], powerW: 860, noiseDb: 66, priceClass: 6, blows: { x: 40, y: 60, w: 200, h: 260 }, draws: { x: 360, y: 60, w: 200, h: 260 }, freeMm: 80 },
      { cooling: { ...cooling(2000), airflowM3h: 780, powerW: 860 }, weightKg: 46, place: "A-06-05" },
    ),
    unit(
      "TT-FF230",
      "filter fan 230 m³/h",
      [255, 255, 65],
      {
        kind: "filter fan",
        on: sides,
        powerW: 38,
        noiseDb: 54,
        priceClass: 1,
        flow: [
          { m3h: 230, pa: 0 },
          { m3h: 160, pa: 40 },
          { m3h: 0, pa: 95 },
        ],
        exit: "TT-EF230",
        ...openings(255, 255),
      },
      { weightKg: 3, place: "A-06-08" },
    ),
    unit(
      "TT-FF560",
      "filter fan 560 m³/h",
      [325, 325, 80],
      {
        kind: "filter fan",
        on: sides,
        powerW: 80,
        noiseDb: 62,
        priceClass: 2,
        flow: [
          { m3h: 560, pa: 0 },
          { m3h: 400, pa: 60 },
          { m3h: 0, pa: 160 },
        ],
        exit: "TT-EF560",
        ...openings(325, 325),
      },
      { weightKg: 5, place: "A-06-09" },
    ),
    ...(
      [
        [230, 255, "A-06-15"],
        [560, 325, "A-06-16"],
      ] as const
    ).map(([flow, side, place]) =>
      part(
        { number: `TT-EF${flow}`, maker: "Tamarind Thermal", text: `outlet filter for ${flow} m³/h`, category: "other", w: side, h: side, d: 25 },
        {
          mounts: [{ kind: "door" }],
          holes: [{ kind: "rect", x: 22, y: 22, w: side - 44, h: side - 44, r: 4 }, ...corners(side, side, 10, "M5")],
          weightKg: 0.9,
          ...stock(place),
        },
      ),
    ),
    unit("TT-H60", "heater 60 W", [60, 70, 50], { kind: "heater", on: ["plate"], heatW: 60, powerW: 60, priceClass: 1, noiseDb: 0 }, { weightKg: 0.4, place: "A-06-11" }),
    unit("TT-H150", "heater 150 W", [70, 180, 60], { kind: "heater", on: ["plate"], heatW: 150, powerW: 150, priceClass: 1, noiseDb: 0 }, { weightKg: 0.7, place: "A-06-12" }),
    unit(
      "TT-AX40",
      "air-to-air exchanger 40 W/K",
      [300, 700, 45],
      { kind: "exchanger", on: sides, wPerK: 40, powerW: 90, noiseDb: 58, priceClass: 4, ...openings(300, 700) },
      { cooling: { curve: [], airflowM3h: 350, powerW: 90 }, weightKg: 22, place: "A-06-14" },
    ),
  ];
}

/** What a drive may carry in warm air, as a share of what it is rated for. */
const DRIVE_DERATING: NonNullable<Part["derating"]> = [
  { aroundC: 40, share: 1 },
  { aroundC: 50, share: 0.8 },
  { aroundC: 60, share: 0.5 },
];

export const LIBRARY: readonly Part[] = [
  part(
    {
      number: "FW-TS35",
      maker: "Fenwright",
      text: "rail TH 35 × 7.5",
      category: "rail",
      w: 2000,
      h: 35,
      d: 7.5,
    },
    { mounts: [{ kind: "plate" }], perforation: { first: 12.5, pitch: 25, slot: 15 }, weightKg: 0.6, ...stock("D-02-01") },
  ),
  ductPart("FW-D40", 40, 80),
  ductPart("FW-D60", 60, 80),
  ductPart("FW-D60P", 60, 80, 18),
  ductPart("FW-D80", 80, 80),
  ductPart("FW-D100", 100, 80),

  twoSided(
    {
      number: "OH-SW100",
      maker: "Oakhollow",
      text: "main switch 100 A",
      category: "switch",
      w: 105,
      h: 120,
      d: 95,
    },
    ["1", "3", "5"],
    ["2", "4", "6"],
    HEAVY,
    { lossW: 9, currentA: 100, ...stock("B-01-01") },
  ),
  twoSided(
    {
      number: "OH-B1C6",
      maker: "Oakhollow",
      text: "circuit breaker 1p C6",
      category: "breaker",
      w: 17.5,
      h: 90,
      d: 70,
    },
    ["1"],
    ["2"],
    POWER,
    { lossW: 2.1, currentA: 6, ...stock("B-02-03") },
  ),
  twoSided(
    {
      number: "OH-B2C10",
      maker: "Oakhollow",
      text: "circuit breaker 2p C10",
      category: "breaker",
      w: 35,
      h: 90,
      d: 70,
    },
    ["1", "3"],
    ["2", "4"],
    POWER,
    { lossW: 3.8, currentA: 10, ...stock("B-02-05") },
  ),
  twoSided(
    {
      number: "OH-M25",
      maker: "Oakhollow",
      text: "motor circuit breaker 20–25 A",
      category: "breaker",
      w: 45,
      h: 105,
      d: 92,
    },
    ["1L1", "3L2", "5L3", "13"],
    ["2T1", "4T2", "6T3", "14"],
    POWER,
    { lossW: 7.5, currentA: 25, clearances: { top: 40, bottom: 40 }, ...stock("B-02-11") },
  ),
  twoSided(
    {
      number: "OH-K25",
      maker: "Oakhollow",
      text: "contactor 25 A, coil 24 V DC",
      category: "contactor",
      w: 45,
      h: 88,
      d: 98,
    },
    ["1L1", "3L2", "5L3", "A1", "21"],
    ["2T1", "4T2", "6T3", "A2", "22"],
    POWER,
    { lossW: 5.2, currentA: 25, ...stock("B-03-02") },
  ),
  twoSided(
    {
      number: "OH-K9",
      maker: "Oakhollow",
      text: "contactor 9 A, coil 24 V DC",
      category: "contactor",
      w: 45,
      h: 78,
      d: 90,
    },
    ["1L1", "3L2", "5L3", "A1", "21"],
    ["2T1", "4T2", "6T3", "A2", "22"],
    POWER,
    { lossW: 3.1, currentA: 9, ...stock("B-03-01"), alternates: ["OH-K25"] },
  ),
  twoSided(
    {
      number: "BL-S480",
      maker: "Brasslark",
      text: "power supply 24 V 20 A",
      category: "supply",
      w: 82,
      h: 125,
      d: 120,
    },
    ["+", "+'", "-", "-'", "13", "14"],
    ["L", "N", "PE"],
    { ...POWER, sizeMax: 6, sizeMin: 0.5 },
    { lossW: 34, currentA: 20, clearances: { top: 40 }, ...stock("B-05-02") },
  ),
  twoSided(
    {
      number: "BL-TR250",
      maker: "Brasslark",
      text: "control transformer 400/230 V 250 VA",
      category: "transformer",
      w: 96,
      h: 106,
      d: 90,
    },
    ["P1", "P2"],
    ["S1", "S2", "PE"],
    POWER,
    { lossW: 24, weightKg: 4.1, ...stock("B-05-09") },
  ),
  twoSided(
    {
      number: "FW-SR2",
      maker: "Fenwright",
      text: "safety relay, two channels",
      category: "safety relay",
      w: 22.5,
      h: 100,
      d: 114,
    },
    ["A1", "S11", "S12", "13", "23", "33"],
    ["A2", "S21", "S22", "14", "24", "34"],
    CONTROL,
    { lossW: 3.4, ...stock("B-07-01") },
  ),
  twoSided(
    {
      number: "FW-R6",
      maker: "Fenwright",
      text: "interface relay 24 V, 6 A",
      category: "relay",
      w: 6.2,
      h: 86,
      d: 78,
    },
    ["A1", "14"],
    ["A2", "11"],
    { ...CONTROL, conductors: 2 },
    { lossW: 0.3, directLeads: true, ...stock("B-07-08", 10) },
  ),
  part(
    {
      number: "TT-C8",
      maker: "Tamarind Thermal",
      text: "controller head, 8 module slots",
      category: "controller",
      w: HEAD_W,
      h: 118,
      d: 92,
    },
    {
      pins: [...row(["24V", "0V", "FE"], HEAD_W, 12, 58, "down", CONTROL), ...row(["B+", "B-"], HEAD_W, 104, 66, "up", PLUG)],
      mounts: [{ kind: "rail", datumY: 59 }],
      slots: Array.from({ length: MODULE_SLOTS }, (_, i) => ({
        name: `s${i + 1}`,
        x: HEAD_W + i * MODULE_W,
        y: 0,
        z: 0,
        accepts: ["module"],
      })),
      lossW: 7,
      maxAroundC: 55,
      ...stock("B-09-01"),
    },
  ),
  ...(["DI8", "DO8", "AO4"] as const).map((kind): Part => {
    const text = { DI8: "digital inputs", DO8: "digital outputs", AO4: "analog outputs" }[kind];
    const channels = kind === "AO4" ? ["1+", "1-", "2+", "2-", "3+", "3-", "4+", "4-"] : ["1", "2", "3", "4", "5", "6", "7", "8"];
    return part(
      {
        number: `TT-${kind}`,
        maker: "Tamarind Thermal",
        text: `module ${text}`,
        category: "module",
        w: MODULE_W,
        h: 118,
        d: 92,
      },
      {
        pins: [...channels, "P", "M"].map((name, i) => ({
          name,
          x: i < 5 ? 8 : 17,
          y: 84 - (i % 5) * 15,
          z: 78,
          exit: "down",
          ...CONTROL,
          conductors: name === "P" || name === "M" ? 2 : 1,
        })),
        mounts: [{ kind: "slot", datumX: 0, datumY: 0, datumZ: 0 }],
        lossW: kind === "DO8" ? 2.4 : 1.6,
        maxAroundC: 55,
        ...stock("B-09-04"),
      },
    );
  }),
  part(
    {
      number: "QM-NS8",
      maker: "Quillmark",
      text: "network switch, 8 ports",
      category: "other",
      w: 48,
      h: 115,
      d: 90,
    },
    {
      pins: row(["24V", "0V", "PE"], 48, 12, 40, "down", CONTROL),
      ...onRail(115),
      lossW: 4.5,
      ...stock("B-09-09"),
    },
  ),
  inChannels(
    twoSided(
      {
        number: "FW-T2",
        maker: "Fenwright",
        text: "two-level terminal 2.5 mm²",
        category: "terminal",
        w: 5.2,
        h: 68,
        d: 62,
      },
      ["a", "b"],
      ["c", "d"],
      CONTROL,
      {
        terminal: { levels: 2, jumperRows: 2, openSide: "right", endPlate: "FW-T2E" },
        currentA: 24,
        weightKg: 0.015,
        ...stock("C-01-02", 50),
      },
    ),
    { a: "1", c: "1", b: "2", d: "2" },
  ),
  twoSided(
    {
      number: "FW-T16",
      maker: "Fenwright",
      text: "terminal 16 mm²",
      category: "terminal",
      w: 12,
      h: 60,
      d: 58,
    },
    ["a"],
    ["b"],
    { ...POWER, sizeMax: 25 },
    { terminal: { levels: 1, jumperRows: 2, openSide: "none" }, currentA: 76, ...stock("C-01-09", 25) },
  ),
  twoSided(
    {
      number: "FW-TF",
      maker: "Fenwright",
      text: "fuse terminal 4 mm², up to 6.3 A",
      category: "terminal",
      w: 6.2,
      h: 68,
      d: 74,
    },
    ["a"],
    ["b"],
    { ...CONTROL, sizeMax: 4 },
    {
      terminal: {
        levels: 1,
        jumperRows: 1,
        openSide: "right",
        endPlate: "FW-TFE",
        fuseMostA: 6.3,
      },
      currentA: 6.3,
      lossW: 0.4,
      ...stock("C-01-05", 20),
    },
  ),
  part(
    {
      number: "FW-TFE",
      maker: "Fenwright",
      text: "end plate for fuse terminal",
      category: "terminal accessory",
      w: 2.2,
      h: 68,
      d: 74,
    },
    { accessory: "end plate", ...onRail(68), ...stock("C-02-03", 20) },
  ),
  part(
    {
      number: "FW-SEP",
      maker: "Fenwright",
      text: "separator",
      category: "terminal accessory",
      w: 2,
      h: 76,
      d: 68,
    },
    { accessory: "separator", ...onRail(76), ...stock("C-02-04", 20) },
  ),
  twoSided(
    {
      number: "FW-TPE2",
      maker: "Fenwright",
      text: "earth terminal 2.5 mm²",
      category: "earth",
      w: 5.2,
      h: 68,
      d: 62,
    },
    ["a"],
    ["b"],
    CONTROL,
    { terminal: { levels: 1, jumperRows: 0, openSide: "none" }, ...stock("C-01-12", 20) },
  ),
  twoSided(
    {
      number: "FW-TPE",
      maker: "Fenwright",
      text: "earth terminal 16 mm²",
      category: "earth",
      w: 12,
      h: 60,
      d: 58,
    },
    ["a", "a'"],
    ["b", "b'"],
    { ...POWER, sizeMax: 25 },
    { terminal: { levels: 1, jumperRows: 0, openSide: "none" }, ...stock("C-01-11", 10) },
  ),
  part(
    {
      number: "FW-T2E",
      maker: "Fenwright",
      text: "end plate for two-level terminal",
      category: "terminal accessory",
      w: 1.5,
      h: 68,
      d: 62,
    },
    { ...onRail(68), ...stock("C-02-02", 50) },
  ),
  part(
    {
      number: "FW-ES",
      maker: "Fenwright",
      text: "end stop",
      category: "terminal accessory",
      w: 8,
      h: 48,
      d: 44,
    },
    { accessory: "end stop", ...onRail(48), ...stock("C-02-01", 50) },
  ),
  ...[
    [2, 5.2, 24],
    [5, 5.2, 24],
    [10, 5.2, 24],
    [3, 12, 76],
    [3, 6.2, 24],
  ].map(([teeth, pitch, currentA], i) =>
    part(
      {
        number: `FW-C${teeth}.${pitch === 12 ? 16 : pitch === 6.2 ? 4 : 2}`,
        maker: "Fenwright",
        text: `comb, ${teeth} teeth, for terminals ${pitch === 12 ? 16 : pitch === 6.2 ? 4 : 2.5} mm²`,
        category: "terminal accessory",
        w: teeth! * pitch!,
        h: 12,
        d: 20,
      },
      { jumper: { teeth: teeth!, pitch: pitch!, currentA: currentA! }, ...stock(`C-02-1${i}`, 20) },
    ),
  ),
  part(
    {
      number: "FW-EB",
      maker: "Fenwright",
      text: "earth bar, 12 studs",
      category: "earth",
      w: 260,
      h: 24,
      d: 30,
    },
    {
      pins: row(
        Array.from({ length: 12 }, (_, i) => String(i + 1)),
        260,
        12,
        22,
        "up",
        STUD,
      ),
      mounts: [{ kind: "plate" }],
      holes: [
        { kind: "thread", x: 12, y: 12, thread: "M6" },
        { kind: "thread", x: 248, y: 12, thread: "M6" },
      ],
      ...stock("C-03-01"),
    },
  ),
  part({ number: "QM-SOC", maker: "Quillmark", text: "service socket", category: "socket", w: 45, h: 92, d: 68 }, { pins: row(["L", "N", "PE"], 45, 83, 40, "up", POWER), ...onRail(92), ...stock("B-11-01") }),

  part(
    {
      number: "OH-VD11",
      maker: "Oakhollow",
      text: "hoist drive 11 kW",
      category: "drive",
      w: 130,
      h: 300,
      d: 215,
    },
    {
      pins: [
        ...row(["L1", "L2", "L3", "PE"], 130, 288, 60, "up", POWER),
        ...row(["U", "V", "W", "PE2", "DC+", "BR"], 130, 12, 60, "down", POWER),
        ...DRIVE_CONTROL.map((name, i): Pin => ({
          name,
          x: 14,
          y: 170 + i * 8,
          z: 160,
          exit: "up",
          ...CONTROL,
        })),
      ],
      mounts: [{ kind: "plate" }],
      holes: corners(130, 300, 12, "M6"),
      lossW: 245,
      maxAroundC: 50,
      derating: DRIVE_DERATING,
      clearances: { top: 100, bottom: 100, left: 5, right: 5, front: 20 },
      currentA: 24,
      weightKg: 6.8,
      ...stock("A-02-04"),
    },
  ),
  part(
    {
      number: "OH-VD18",
      maker: "Oakhollow",
      text: "revolve drive 18 kW",
      category: "drive",
      w: 175,
      h: 320,
      d: 230,
    },
    {
      pins: [
        ...row(["L1", "L2", "L3", "PE"], 175, 308, 60, "up", POWER),
        ...row(["U", "V", "W", "PE2", "DC+", "BR"], 175, 12, 60, "down", POWER),
        ...DRIVE_CONTROL.map((name, i): Pin => ({
          name,
          x: 16,
          y: 184 + i * 8,
          z: 170,
          exit: "up",
          ...CONTROL,
        })),
      ],
      mounts: [{ kind: "plate" }],
      holes: corners(175, 320, 14, "M6"),
      lossW: 410,
      maxAroundC: 50,
      derating: DRIVE_DERATING,
      clearances: { top: 100, bottom: 100, left: 5, right: 5, front: 20 },
      currentA: 38,
      weightKg: 9.9,
      ...stock("A-02-06"),
    },
  ),
  part(
    {
      number: "OH-BC",
      maker: "Oakhollow",
      text: "brake chopper",
      category: "chopper",
      w: 70,
      h: 200,
      d: 150,
    },
    {
      pins: [...row(["PE"], 70, 190, 50, "up", POWER), ...row(["DC+", "BR", "R1", "R2", "T1"], 70, 10, 50, "down", POWER)],
      mounts: [{ kind: "plate" }],
      holes: corners(70, 200, 8, "M5"),
      lossW: 38,
      clearances: { top: 60, bottom: 60 },
      ...stock("A-03-01"),
    },
  ),
  part(
    {
      number: "OH-LF100",
      maker: "Oakhollow",
      text: "line filter 100 A",
      category: "filter",
      w: 110,
      h: 92,
      d: 80,
    },
    {
      pins: [...row(["L1", "L2", "L3"], 110, 84, 45, "up", HEAVY), ...row(["L1'", "L2'", "L3'", "PE"], 110, 8, 45, "down", HEAVY)],
      mounts: [{ kind: "plate" }],
      holes: corners(110, 92, 8, "M5"),
      lossW: 26,
      currentA: 100,
      ...stock("A-03-07"),
    },
  ),
  ...climateParts(),
  part(
    {
      number: "TT-CU1500",
      maker: "Tamarind Thermal",
      text: "cooling unit, door mounted",
      category: "cooling",
      w: 400,
      h: 550,
      d: 110,
    },
    {
      mounts: [{ kind: "door" }],
      holes: [{ kind: "rect", x: 25, y: 40, w: 350, h: 470, r: 4 }, ...corners(400, 550, 12, "M6")],
      pins: row(["L", "N", "PE"], 400, 30, 90, "out", CONTROL),
      cooling: {
        curve: [
          { insideC: 35, outsideC: 35, capacityW: 1500 },
          { insideC: 35, outsideC: 50, capacityW: 1140 },
          { insideC: 45, outsideC: 35, capacityW: 1720 },
          { insideC: 45, outsideC: 50, capacityW: 1380 },
        ],
        airflowM3h: 620,
        powerW: 690,
      },
      climate: {
        kind: "cooling unit",
        on: ["door", "left", "right"],
        powerW: 690,
        noiseDb: 64,
        priceClass: 5,
        blows: { x: 60, y: 400, w: 280, h: 90 },
        draws: { x: 60, y: 60, w: 280, h: 90 },
        freeMm: 80,
      },
      weightKg: 38,
      ...stock("A-06-01"),
    },
  ),
  operator("QM-PB", "push button, 1 NO", ["13", "14"], "operator", stock("B-12-01", 5)),
  operator("QM-KS", "key switch, 2 positions", ["13", "14", "23", "24"], "operator", stock("B-12-04")),
  operator("QM-ES", "emergency stop, 2 NC", ["11", "12", "21", "22"], "operator", stock("B-12-06")),
  operator("QM-PL", "pilot lamp 24 V", ["X1", "X2"], "lamp", { lossW: 0.5, ...stock("B-12-08", 5) }),
  part(
    {
      number: "QM-HMI7",
      maker: "Quillmark",
      text: "operator panel 7 in",
      category: "operator",
      w: 200,
      h: 150,
      d: 45,
    },
    {
      mounts: [{ kind: "door" }],
      holes: [{ kind: "rect", x: 8, y: 8, w: 184, h: 134, r: 2 }],
      pins: row(["24V", "0V", "FE"], 200, 20, 38, "down", { ...CONTROL, conductors: 1 }),
      lossW: 9,
      ...stock("B-12-20"),
    },
  ),
  // A horn of which only the terminals' names are known: its wires are measured from its middle.
  part(
    { number: "QM-HORN", maker: "Quillmark", text: "horn 24 V", category: "lamp", w: 60, h: 60, d: 50 },
    {
      mounts: [{ kind: "door" }],
      holes: OPERATOR_HOLE,
      pins: [
        { name: "1", clamp: "screw", sizeMin: 0.5, sizeMax: 2.5, tail: 10, strip: 8 },
        { name: "2", clamp: "screw", sizeMin: 0.5, sizeMax: 2.5, tail: 10, strip: 8 },
      ],
    },
  ),
  part(
    {
      number: "FW-CEF",
      maker: "Fenwright",
      text: "cable entry frame, 10 cables",
      category: "gland",
      w: 150,
      h: 60,
      d: 30,
    },
    {
      mounts: [{ kind: "plate" }],
      holes: [{ kind: "rect", x: 12, y: 12, w: 126, h: 36, r: 3 }],
      gland: { thread: "frame", cableMin: 4, cableMax: 23 },
      ...stock("C-05-01"),
    },
  ),
  ...(
    [
      ["FW-G16", "M16", 22, 16.3, 4.5, 10, "C-05-04"],
      ["FW-G20", "M20", 27, 20.3, 6, 13, "C-05-05"],
      ["FW-G32", "M32", 40, 32.3, 14, 21, "C-05-07"],
    ] as const
  ).map(([number, thread, across, d, cableMin, cableMax, place]) =>
    part(
      { number, maker: "Fenwright", text: `cable gland ${thread}`, category: "gland", w: across, h: across, d: 28 },
      {
        mounts: [{ kind: "plate" }],
        holes: [{ kind: "round", x: across / 2, y: across / 2, d }],
        gland: { thread: `${thread}x1.5`, cableMin, cableMax },
        ...stock(place, 10),
      },
    ),
  ),
  part(
    { number: "FW-G25", maker: "Fenwright", text: "cable gland M25", category: "gland", w: 32, h: 32, d: 28 },
    {
      mounts: [{ kind: "plate" }],
      holes: [{ kind: "round", x: 16, y: 16, d: 25.3 }],
      gland: { thread: "M25x1.5", cableMin: 9, cableMax: 17 },
      ...stock("C-05-06", 10),
    },
  ),

  wirePart("BL-W6BK", 6, 5.1, "BK", "R-04-11"),
  ...reels,
  cablePart("BL-C4G6S", "motor cable 4G6, screened", 4, 6, 15.2, true),
  cablePart("BL-C4G16S", "motor cable 4G16, screened", 4, 16, 21.8, true),
  cablePart("BL-C8E", "encoder cable 4 × 2 × 0.25", 8, 0.25, 8.2, true),
  cablePart("BL-C12", "control cable 12G1", 12, 1, 12.4, false),
  cablePart("BL-C3", "cable 3G1.5", 3, 1.5, 8.6, false),
  cablePart("BL-C18", "control cable 18G1", 18, 1, 15.1, false),
];
