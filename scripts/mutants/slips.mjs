/**
 * Faults of meaning, as a hurried engineer would slip: the wrong side, the wrong row of a table, one instead of several, a point that is
 * dropped. By stage; `from` stands just once in its file below core/src, and `to` stands there instead while the tests run.
 */
const of = (stage, file, slips) =>
  slips.map(([slip, from, to]) => ({ stage, file: `core/src/${file}`, slip, from, to }));

export const SLIPS = [
  // ---- heat
  ...of("heat", "heat/units.ts", [
    ["the duty of two units is that of one", "sum + count * (heats ?", "sum + (heats ?"],
    ["two units take the power of one", "sum + count * powerOf(part)", "sum + powerOf(part)"],
    ["fans stand high as coolers do", '["heater", "filter fan"]', '["heater"]'],
    ["the rule of thumb buys without its fifth", "r.w >= wantedW", "r.w >= ratedW"],
    ["a door carries what is new on it alone", "kg + (hung.get(face.id) ?? 0) +", "(hung.get(face.id) ?? 0) +"],
    ["two units are as loud as one", "part.climate.noiseDb + 10 * Math.log10(count)", "part.climate.noiseDb"],
    ["a fan blows against half its pressure", "...curve.map((p) => p.pa)) / 3", "...curve.map((p) => p.pa)) / 2"],
    [
      "heaters count all losses in the cold",
      "const least = lossW * (values.leastSharePercent / 100)",
      "const least = lossW",
    ],
    [
      "a year is counted with its hours twice",
      "hours, ...dutyAt(parts, need, outsideC)",
      "hours: 2 * hours, ...dutyAt(parts, need, outsideC)",
    ],
  ]),
  ...of("heat", "heat/zone.ts", [
    [
      "the heater against condensation with all losses",
      "heaterNeeded(leastW, shell, 2 * dewPointC",
      "heaterNeeded(lossW, shell, 2 * dewPointC",
    ],
    ["the air around a device as that at its middle", "[y, y + h / 2, y + h].map", "[y + h / 2].map"],
    ["wires lose in proportion to the load", "* load ** 2", "* load"],
    [
      "a left wall beside a neighbour is free",
      '(kind === "left" && [...look.enclosures.values()].some((o) => o.neighbourRight === e.tag))',
      "false",
    ],
    ["the worst counts medians besides", "worstOf(d, basis) - d.countedW", "worstOf(d, basis)"],
    ["above its last point a part bears its last share", "aroundC > last.x ? 0 :", "aroundC > last.x ? last.y :"],
    ["a heater stirs the air as a fan", 'u.kind === "heater" ? 0 : AIR_WH', "AIR_WH"],
    ["units carry all they can, whatever is needed", "Math.min(coolingNeededW, carriedW)", "carriedW"],
  ]),
  ...of("heat", "heat/balance.ts", [
    ["a height on the edge takes the next row", "heightM <= r.toM", "heightM < r.toM"],
    ["a wall is as cold as outside", "(insideC + outsideC) / 2;", "outsideC;"],
  ]),
  // ---- lineups
  ...of("lineups", "lineups/connections.ts", [
    ["wires to another enclosure lie inside", '?.side ?? "outside"', '?.side ?? "inside"'],
    ["the far end of a core is forgotten", "endText(other) : (core.far ?? null)", "endText(other) : null"],
    ["a core listed as a wire counts twice", "|| listed.has(`${cable.tag}", "|| false && listed.has(`${cable.tag}"],
  ]),
  ...of("lineups", "lineups/compute.ts", [
    [
      "outside conductors leave their clamps spare",
      "[...l.inside, ...l.outside].map((c) => c.pin)",
      "l.inside.map((c) => c.pin)",
    ],
    ["jumpers that share a member are not in each other's way", "start <= before.end", "start < before.end"],
    [
      "what others take of a rail is free",
      "lengthMm > railMm - takenMm! + TOUCHING_MM",
      "lengthMm > railMm + TOUCHING_MM",
    ],
    ["two wires under one clamp are one of two", "inside[1]!.pin !== first!.pin &&", ""],
    ["an accessory hangs behind the next member", "behind: members[n - 1]?.tag", "behind: members[n]?.tag"],
    ["a jumper lets a side be left open", "inside.length === 0 && !bridged.has(level) &&", "inside.length === 0 &&"],
    ["a blocked jumper passes", "const blocked = j.over.filter", "const blocked = j.over.slice(1).filter"],
    ["spares of all sizes together", "const size = look.pin(part, pin)?.sizeMax ?? null;", "const size = null;"],
  ]),
  ...of("lineups", "lineups/jumpers.ts", [
    ["the comb is as long as it joins members", "p.jumper!.teeth >= span", "p.jumper!.teeth >= joined.length"],
    ["teeth that two combs share are not cut", "teeth: span + count - 1", "teeth: span"],
    ["a row beyond its levels joins none", "Math.min(row, member.levels.length)", "row"],
    ["cores are wires a jumper makes needless", "if (c.wire !== null && c.core === null)", "if (c.wire !== null)"],
    ["the next comb begins behind the last", "from = to;\n      }", "from = to + 1;\n      }"],
    ["the longest comb first", "a.jumper!.teeth - b.jumper!.teeth ||", "b.jumper!.teeth - a.jumper!.teeth ||"],
  ]),
  ...of("lineups", "lineups/fuses.ts", [
    [
      "a size between two rows carries as the larger",
      "CARRIES.findLast(([mm2]) => mm2 <= sizeMm2 + SIZE_TOLERANCE_MM2)",
      "CARRIES.find(([mm2]) => mm2 >= sizeMm2 - SIZE_TOLERANCE_MM2)",
    ],
    ["a fuse protects what lies inside alone", "[...l.inside, ...l.outside]", "l.inside"],
  ]),
  ...of("lineups", "lineups/cables.ts", [
    ["the far end of a core is not kept", "far: c.far ?? null", "far: null"],
    ["cables by their names instead of their places", "a.middle - b.middle || byText", "byText"],
  ]),
  // ---- formats
  ...of("formats", "formats/csv.ts", [
    ["a lone carriage return stands bare", "quoted_match: /[\\r\\n]/", "quoted_match: /\\n/"],
    ["a tab before a formula is let through", "/^[=+\\-@\\t\\r", "/^[=+\\-@\\r"],
  ]),
  ...of("formats", "formats/pdf.ts", [
    ["dashed lines are drawn through", "doc.dash(item.dash, { space: item.dash })", "doc.undash()"],
    ["a dash stays for what comes after it", "else doc.undash();", ""],
    ["texts are turned the other way", "doc.rotate(-turn,", "doc.rotate(turn,"],
    ["texts that end somewhere stand about it", '"middle" ? -width / 2 : -width', '"middle" ? -width / 2 : -width / 2'],
    [
      "a sheet is as large as the first",
      "size: [scene.w * MM, scene.h * MM]",
      "size: [scenes[0]!.w * MM, scenes[0]!.h * MM]",
    ],
  ]),
  ...of("formats", "formats/dxf.ts", [
    ["circles upside down", "drawCircle(item.x, up(item.y)", "drawCircle(item.x, item.y"],
    ["upright texts stand beside their place", "90: [rise, 0]", "90: [0, -rise]"],
    ["texts that end somewhere begin there", 'end: "right"', 'end: "left"'],
    [
      "rectangles hang from their lower edge",
      "drawing.drawRect(item.x, up(item.y + item.h), item.x + item.w, up(item.y))",
      "drawing.drawRect(item.x, up(item.y), item.x + item.w, up(item.y - item.h))",
    ],
  ]),
  ...of("formats", "formats/svg.ts", [
    ["texts stand above their line", 'y="${num(item.y + BASELINE * item.size)}"', 'y="${num(item.y)}"'],
  ]),
  ...of("formats", "formats/label-sheets.ts", [
    [
      "labels fill columns as if they were rows",
      "Math.floor(i / columns) * (h + gapY)",
      "Math.floor(i / rows) * (h + gapY)",
    ],
  ]),
  // ---- kits
  ...of("kits", "kits/bill.ts", [
    ["half a piece is rounded", "Math.ceil(total - 1e-9)", "Math.round(total)"],
    ["a twin ferrule is counted at both wires", "half ? 0.5 : 1", "1"],
    ["waste is the share, not its metres", "addTo(kind.waste(), metres * waste,", "addTo(kind.waste(), waste,"],
    ["the last row of steps that fits counts", "return steps.find((s)", "return steps.findLast((s)"],
    [
      "rivet nuts take the thread of a through hole",
      'said === "rivet nut" ? threadOfNut(cut.d, threads) : threadThrough(cut.d, threads)',
      "threadThrough(cut.d, threads)",
    ],
    ["accessories of a device come with members too", 'along(member ? "strip member" : "device"', 'along("device"'],
  ]),
  ...of("kits", "kits/needs.ts", [
    [
      "jobs without a date are served first",
      'byText(a.wanted ?? "\\uffff", b.wanted ?? "\\uffff")',
      'byText(a.wanted ?? "", b.wanted ?? "")',
    ],
    ["a delivery on the day is late", "d.due <= wanted", "d.due < wanted"],
    ["what is reserved is not there", "need.there = even(need.there + (reserved.get(own) ?? 0));", ""],
    [
      "the last step is served first",
      "for (const { enclosure, step, quantity, tags } of steps) {",
      "for (const { enclosure, step, quantity, tags } of [...steps].reverse()) {",
    ],
    ["more picked than a line wants is lost", "even(there - done)", "0"],
  ]),
  ...of("kits", "kits/packs.ts", [
    ["packs are rounded", "Math.ceil(quantity / size - 1e-9)", "Math.round(quantity / size)"],
  ]),
  ...of("kits", "kits/events.ts", [
    ["what was undone stands", "&& !undone.has(e.id)", ""],
    ["what is carried over is wanted again", "other.quantity = even(other.quantity - takes);", ""],
    ["a kit with a short line is picked never", "done + short === lines", "done === lines"],
  ]),
  ...of("kits", "kits/walk.ts", [
    ["along a shelf one way", "along += 2 * stopOf", "along += stopOf"],
    [
      "a shelf is gone along from its far end",
      "stopOf.get(a)!.metres - stopOf.get(b)!.metres ||",
      "stopOf.get(b)!.metres - stopOf.get(a)!.metres ||",
    ],
  ]),
  ...of("kits", "kits/kits.ts", [["metres weigh as pieces do", '(l.unit === "pcs" ? l.quantity : 0)', "l.quantity"]]),
  // ---- metalwork
  ...of("metalwork", "metalwork/tools.ts", [
    ["a countersink as deep as its mark", "depth: cut.head * SINK", "depth: cut.d * SINK"],
    [
      "the largest countersink",
      "sort((a, b) => a.d - b.d)[0];\n\n/** A round hole",
      "sort((a, b) => b.d - a.d)[0];\n\n/** A round hole",
    ],
    [
      "an opening takes the thinnest mill",
      "t.d <= widthMm + EXACT_MM).sort((a, b) => b.d - a.d)[0]",
      "t.d <= widthMm + EXACT_MM).sort((a, b) => a.d - b.d)[0]",
    ],
  ]),
  ...of("metalwork", "metalwork/bars.ts", [
    ["of kept offcuts of one length one is used", "Array.from({ length: o.count }", "Array.from({ length: 1 }"],
    ["left sides are notched right", '`${up ? "left" : "lower"} side', '`${up ? "right" : "upper"} side'],
    ["covers as long as their ducts", "Math.max(1, duct.length - coverShorterMm)", "duct.length"],
    ["notches told from the beginning of the face", "mm at ${r(start - a0)} mm", "mm at ${r(start)} mm"],
  ]),
  ...of("metalwork", "solve/cuts.ts", [
    ["the longest rest first", "[...shelf].sort((a, b) => a - b)", "[...shelf].sort((a, b) => b - a)"],
    ["a bar is trimmed at one end", "lengthMm - 2 * trimMm + kerfMm", "lengthMm - trimMm + kerfMm"],
    ["a rest is told with its first trim", "Math.max(0, lengthMm - trimMm - used)", "Math.max(0, lengthMm - used)"],
  ]),
  ...of("metalwork", "metalwork/nc.ts", [
    [
      "arcs the other way round",
      'mirrored === (leg.right === true) ? "G3" : "G2"',
      'mirrored === (leg.right === true) ? "G2" : "G3"',
    ],
    ["a tap is drawn out as it went in", 'control.tapBottom ?? "M4"', 'control.tapBottom ?? "M3"'],
    [
      "the second depth of a cycle is forgotten",
      "say(o.depth === before.depth ? xy(o) :",
      "say(xy(o)); if (o.depth === before.depth) say(true ? xy(o) :",
    ],
  ]),
  ...of("metalwork", "metalwork/plan.ts", [
    ["mills before countersinks", "countersink: 3, mill: 4", "countersink: 4, mill: 3"],
    ["moving the sheet counts from the first set-up", "of setUps.slice(1)", "of setUps"],
  ]),
  ...of("metalwork", "metalwork/times.ts", [["a drill's point is twice as long", "d / 2 / Math.tan", "d / Math.tan"]]),
  ...of("metalwork", "metalwork/checks.ts", [
    ["turns for another material", "r.material === undefined || r.material === material", "r.material === undefined"],
    ["each hole of a thread told alone", "if (known) known.count++;", "if (known) known.count = 1;"],
  ]),
  // ---- wire prep
  ...of("wireprep", "wireprep/leads.ts", [
    [
      "three under a clamp share a crimp",
      'treatment === "twin ferrule" && lands === 2',
      'treatment === "twin ferrule" && lands >= 2',
    ],
    ["the shorter length to strip", "Math.max(byPin, byPiece)", "Math.min(byPin, byPiece)"],
    [
      "from and to change their labels",
      "const label = writeLabel(patterns[at], values)",
      'const label = writeLabel(patterns[at === "from" ? "to" : "from"], values)',
    ],
    [
      "an end says where it is instead of where it goes",
      'const [ref, far] = at === "from" ? [from, to] : [to, from]',
      'const [ref, far] = at === "from" ? [from, from] : [to, to]',
    ],
  ]),
  ...of("wireprep", "wireprep/rank.ts", [
    ["bundles from the bottom up", "b.centre.y - a.centre.y", "a.centre.y - b.centre.y"],
  ]),
  ...of("wireprep", "wireprep/profile.ts", [
    ["the last row of codes counts", "[...codes].reverse().flatMap", "[...codes].flatMap"],
    ["inches are millimetres", 'unit === "in" ? mm / MM_PER_INCH : mm', "mm"],
    ["the decimal sign stays a point", 'text.replace(".", profile.decimal ?? ".")', "text"],
  ]),
  ...of("wireprep", "wireprep/tables.ts", [
    ["the order begins anew at the bench", "b.chains.flat().length + i + 1", "i + 1"],
    [
      "later crimps are told at one end only",
      "[l.from, l.to].flatMap((e) => laterText(e) ?? [])",
      "[l.from].flatMap((e) => laterText(e) ?? [])",
    ],
  ]),
  ...of("wireprep", "wireprep/counts.ts", [
    ["a later crimp is counted at both leads", "byCount(wire, later.with) < 0", "byCount(wire, later.with) !== 0"],
  ]),
  ...of("wireprep", "wireprep/chains.ts", [
    ["strings of just so many are parted", "leads.length <= most", "leads.length < most"],
  ]),
  ...of("wireprep", "wireprep/reels.ts", [
    ["leads are cut without waste", "lengthMm: l.lengthMm * share", "lengthMm: l.lengthMm"],
    ["a reel is told without its rest", "restM: metres - usedM", "restM: pack - usedM"],
  ]),
  ...of("wireprep", "wireprep/batches.ts", [
    ["a long strip is no hindrance", "|| end.stripMm > (m.stripMaxMm ?? Infinity)", ""],
    [
      "marks are put on where the machine prints",
      "countsOf(leads, machine).labels * rules.markS",
      "labels * rules.markS",
    ],
  ]),
  ...of("wireprep", "wireprep/events.ts", [
    [
      "what spoils one lead leaves its pair",
      "for (const lead of chain)\n      for (const e of byLead.get(lead) ?? []) if",
      "for (const lead of chain.slice(0, 1))\n      for (const e of byLead.get(lead) ?? []) if",
    ],
  ]),
  ...of("wireprep", "wireprep/make.ts", [
    [
      "bundles of further panels are wired last",
      "panelsOf(b, asked.panels).map((name) => [name, i] as const)",
      "[[b, i] as const]",
    ],
  ]),
  // ---- edits
  ...of("edits", "frame/edits.ts", [
    ["what was taken back is laid", "if (edit.back) continue;\n      kin", "kin"],
    [
      "one that never fitted keeps others from being taken back",
      "laid.unfitting.filter((u) => !before.has(u.edit.id))",
      "laid.unfitting",
    ],
    ["a field set to nothing stays", "if (value === null) Reflect.deleteProperty(next, key);\n    else", ""],
    [
      "a payload that does not fit is dropped unsaid",
      "} else unfitting.push({ edit, reason: applied.reason, remedy: applied.remedy });",
      "}",
    ],
    [
      "what is settled is not kept",
      "return settle ? { ...edit, payload: settle(design, edit.payload as never, who) } : edit;",
      "return edit;",
    ],
  ]),
  ...of("edits", "intake/edits.ts", [
    ["accepted twice stands twice", "filter((a) => a.point !== accepted.point)", "filter(() => true)"],
    [
      "somebody else may be named who accepts",
      "settle: (_design, accepted, who) => ({ ...accepted, who })",
      "settle: (_design, accepted) => ({ ...accepted })",
    ],
  ]),
  ...of("edits", "design/rename.ts", [
    ["jumpers keep the old name", "members: j.members.map(name)", "members: j.members"],
    ["glands at the other end keep the old name", "glandTo: name(c.glandTo)", "glandTo: c.glandTo"],
    ["modules keep the old carrier", "slot: name(v.on.slot)", "slot: v.on.slot"],
  ]),
  // ---- intake, panel, routes
  ...of("panel", "panel/compute.ts", [
    ["a device upside down hangs from its datum", "own === 180 ? -lift : lift", "lift"],
    ["a module stands beside its slot's height", "z: slot.z - datumZ", "z: slot.z"],
    ["upright rails are centred by nothing", "{ x: rail.x + railPart.h / 2, y: rail.y }", "{ x: rail.x, y: rail.y }"],
  ]),
  ...of("panel", "design/geometry.ts", [
    [
      "the right side runs from rear to front",
      "o: vec(e.w, 0, 0), u: vec(0, 0, 1)",
      "o: vec(e.w, 0, e.d), u: vec(0, 0, -1)",
    ],
    ["the next enclosure stands at its own width", "x += e.w;", 'x += byTag.get(e.neighbourRight ?? "")?.w ?? e.w;'],
  ]),
  ...of("intake", "wiring/conductors.ts", [
    [
      "the shop's class goes before the job's",
      'take(key, jobClasses[cls], "job class") ?? take(key, shopClasses[cls], "shop class")',
      'take(key, shopClasses[cls], "shop class") ?? take(key, jobClasses[cls], "job class")',
    ],
    [
      "a size between two rows is as thick as the smaller",
      "rules.outer.find((r) => r.sizeMm2 >= sizeMm2 || sameSize(r.sizeMm2, sizeMm2))",
      "rules.outer.findLast((r) => r.sizeMm2 <= sizeMm2 || sameSize(r.sizeMm2, sizeMm2))",
    ],
  ]),
  ...of("intake", "intake/compute.ts", [
    [
      "a slot is taken by the third only",
      "if (there !== undefined) {\n      const [one, two]",
      "if (there !== undefined && there === d.tag) {\n      const [one, two]",
    ],
  ]),
  ...of("routes", "routes/length.ts", [
    ["slack of the panel on the door too", "end.onDoor ? rules.slackDoorMm : rules.slackMm", "rules.slackMm"],
    ["bending counts once", "2 * bend;", "bend;"],
    ["the reserve is taken of the way alone", "(sum * rules.reservePercent)", "(parts.wayNm * rules.reservePercent)"],
  ]),
  ...of("routes", "routes/compute.ts", [
    ["a wire through one duct gets its width twice", "if (within && one * other < 0) return [0, 0];", ""],
    [
      "the limit of a duct is over already",
      "piece.fillPercent > fillLimitPercent ?",
      "piece.fillPercent >= fillLimitPercent ?",
    ],
    [
      "loops are forgotten in what is compared",
      "return nm + loopNm + entry(starts, way.from)",
      "return nm + entry(starts, way.from)",
    ],
  ]),
  ...of("routes", "routes/swing.ts", [
    ["a door on the right opens as one on the left", 'side === "left" ? 1 : -1', "1"],
    ["the farthest is where the door is open", "[0, openDeg, ...(half <= openDeg ? [half] : [])]", "[0, openDeg]"],
  ]),
];
