import fc from "fast-check";
import type { Design } from "../design/model";
import { assembled, pdfOf, streamOf, textOut, type SheetOut } from "../test/pdf-sheet";
import { tiny } from "../test/tiny";
import { findInDocument, foundIn } from "./find";
import { isPdf } from "./kind";
import type { PageText } from "./pages";
import { readPdf } from "./pdf";
import { findOnPage, namesOf, type PageFound } from "./places";
import { sheetNamed, sheetsOf } from "./sheets";
import { tagOf } from "./tags";
import { wordsOf, type Run } from "./words";

const A4 = (...ops: string[]): SheetOut => ({ w: 595, h: 842, ops });

/** Words that stand on one line, as far apart as their letters are high unless another place is given. */
const page = (...words: (string | [text: string, x: number, y: number])[]): Pick<PageText, "words"> => {
  let at = 0;
  return {
    words: words.map((w, i) => {
      const [text, x, y] = typeof w === "string" ? [w, at, 0] : w;
      at = x + 6 * text.length + 10;
      return { text, x, y, w: 6 * text.length, h: 10, size: 10, line: typeof w === "string" ? 0 : i + 1 };
    }),
  };
};

const design: Design = {
  ...tiny({
    devices: [
      { tag: "-K1" },
      { tag: "-K13" },
      { tag: "+A1-S1" },
      { tag: "+A2-S1" },
      { tag: "-A1", sheet: "=B1/2.4" },
      { tag: "-X2.1" },
      { tag: "-X2.16" },
    ],
    wires: [
      { number: "214", from: { device: "-K1", pin: "A1" }, to: { device: "-X2.1", pin: "p" }, net: "24V" },
      { number: "7", from: { device: "-K13", pin: "A2" }, to: { device: "-K1", pin: "A2" }, net: "0V" },
    ],
    nets: [{ name: "24V" }, { name: "0V" }],
  }),
  strips: [{ tag: "-X2", rail: "none", members: ["-X2.1", "-X2.16"] }],
  cables: [{ tag: "-W4", type: "c", cores: [] }],
};
const names = namesOf(design);
const on = (...words: Parameters<typeof page>): PageFound => findOnPage(names, page(...words));
const told = (...words: Parameters<typeof page>): string[] =>
  on(...words).found.map((f) => `${f.kind} ${f.of} by ${f.by}: ${f.text}`);

describe("tags on a page", () => {
  test.each([
    ["in full", ["-K1"], ["device -K1 by tag: -K1"]],
    ["with more than the design has", ["=B1+A1-K1"], ["device -K1 by short tag: =B1+A1-K1"]],
    ["without its sign", ["K13"], ["device -K13 by short tag: K13"]],
    ["with a pin", ["-K1:A1"], ["device -K1 by tag: -K1:A1"]],
    ["with a reference to a sheet, in brackets", ["(-K1/5.3)"], ["device -K1 by tag: -K1/5.3"]],
    [
      "a terminal of a strip, by colon or point",
      ["-X2:16", "X2.1"],
      ["device -X2.16 by short tag: -X2:16", "device -X2.1 by short tag: X2.1"],
    ],
    ["a cable and a strip", ["-W4", "-X2"], ["cable -W4 by tag: -W4", "strip -X2 by tag: -X2"]],
    ["the name of a pin is no device", ["A1"], []],
    ["a tag with its sign is one, whatever pins are called", ["-A1"], ["device -A1 by tag: -A1"]],
  ])("%s", (_, words, expected) => {
    expect(told(...words)).toEqual(expected);
  });

  test("one in pieces is put together; two tags beside each other are not", () => {
    expect(told(["-", 0, 0])).toEqual([]);
    // 3 points apart, letters 10 high: less than 0.7 of them.
    const apart = (...texts: string[]) => {
      let x = 0;
      return {
        words: texts.map((text) => {
          const word = { text, x, y: 0, w: 6 * text.length, h: 10, size: 10, line: 0 };
          x += word.w + 3;
          return word;
        }),
      };
    };
    const of = (...texts: string[]) => findOnPage(names, apart(...texts)).found.map((f) => `${f.of} ${f.box.w}`);
    expect(of("-K", "13")).toEqual(["-K13 27"]);
    expect(of("-", "A1")).toEqual(["-A1 21"]);
    // -K1 is known by itself: what follows is not a part of it.
    expect(of("-K1", "3")).toEqual(["-K1 18"]);
    expect(of("-K1", "-K13")).toEqual(["-K1 18", "-K13 24"]);
  });

  test("one that may be several is what its page says for all its tags; else it is told as unclear", () => {
    expect(told("-S1", ["+A2", 0, 700])).toEqual(["device +A2-S1 by short tag: -S1"]);
    expect(told("+A1-S1", ["+A2", 0, 700])).toEqual(["device +A1-S1 by tag: +A1-S1"]);
    for (const words of [["-S1"], ["-S1", ["+A1", 0, 700], ["+A2", 0, 800]]] as Parameters<typeof page>[]) {
      expect(told(...words)).toEqual([]);
      expect(on(...words).unclear.map((u) => [u.text, u.among])).toEqual([["-S1", ["+A1-S1", "+A2-S1"]]]);
    }
  });

  test("what is written as a tag and is none of the design is told", () => {
    expect(on("-K99", "-K1", "K99", "=B1/5", "+24V", "-15").strange.map((s) => s.text)).toEqual(["-K99"]);
  });

  test("numbers beside the tag of a strip are its terminals, up to the next; one under it too", () => {
    expect(told(["-X2", 0, 100], ["1", 50, 100], ["16", 90, 101], ["99", 130, 100])).toEqual([
      "strip -X2 by tag: -X2",
      "device -X2.1 by row of its strip: 1",
      "device -X2.16 by row of its strip: 16",
    ]);
    expect(told(["-X2", 0, 100], ["1", 2, 113])).toContain("device -X2.1 by row of its strip: 1");
    // Left of it, another row, too far below.
    expect(told(["1", -30, 100], ["-X2", 0, 100], ["1", 50, 130], ["1", 2, 140])).toEqual(["strip -X2 by tag: -X2"]);
    // A title names the strip without its sign: the numbers of its row are none of terminals.
    expect(told(["-X2", 0, 100], ["X2", 0, 500], ["16", 90, 500])).toHaveLength(2);
  });

  test("wires by number and net, where a device they lead to stands on the page", () => {
    expect(told("214")).toEqual([]);
    expect(told("-K1", "214", "24V", "0V")).toEqual([
      "device -K1 by tag: -K1",
      "wire 214 by number: 214",
      "wire 214 by net: 24V",
      "wire 7 by net: 0V",
    ]);
    // One or two digits are columns and pins as well, and what a pin is called is a pin.
    expect(told("-K1", "7", "A2")).toEqual(["device -K1 by tag: -K1"]);
  });
});

test("parts of a tag", () => {
  expect(tagOf("=B1+A1-K3")).toEqual({ plant: "B1", place: "A1", thing: "K3" });
  expect(tagOf("+A1")).toEqual({ plant: "", place: "A1", thing: "" });
  expect(tagOf("==G1++S2-X1.3")).toEqual({ plant: "G1", place: "S2", thing: "X1.3" });
  expect([tagOf("K3"), tagOf("-"), tagOf("=")]).toEqual([null, null, null]);
});

describe("words of a page", () => {
  const run = (text: string, x: number, y: number, more: Partial<Run> = {}): Run => ({
    ...{ text, x, y, dx: 1, dy: 0, length: 6 * text.length, height: 10 },
    ...more,
  });
  const texts = (...runs: Run[]): string[] => wordsOf(runs).map((w) => w.text);

  test("runs that touch are one word, whatever order they are drawn in; blanks part words", () => {
    expect(texts(run("13", 12, 0), run("-K", 0, 0))).toEqual(["-K13"]);
    expect(texts(run("-K1 A1", 0, 0))).toEqual(["-K1", "A1"]);
    expect(texts(run("-K", 0, 0), run("13", 14, 0))).toEqual(["-K", "13"]);
    // Drawn twice over one another, for bold letters.
    expect(texts(run("-K1", 0, 0), run("-K1", 0.3, 0))).toEqual(["-K1", "-K1"]);
    expect(texts(run("–K\u00AD1\u00A0A2", 0, 0))).toEqual(["-K1", "A2"]);
    // Small letters beside large ones are another text.
    expect(texts(run("-K1", 0, 0), run("2", 18, 0, { height: 6 }))).toEqual(["-K1", "2"]);
  });

  test("a box stands around letters that run any way", () => {
    const box = (dx: number, dy: number) => {
      const { x, y, w, h } = wordsOf([run("ABCDE", 100, 100, { dx, dy })])[0]!;
      return [x, y, w, h];
    };
    // 30 long, 7.8 above the base line and 2.2 below it.
    expect(box(1, 0)).toEqual([100, 92.2, 30, 10]);
    expect(box(0, -1)).toEqual([92.2, 70, 10, 30]);
    expect(box(-1, 0)).toEqual([70, 97.8, 30, 10]);
    expect(box(0, 1)).toEqual([97.8, 100, 10, 30]);
  });

  test("no letter is lost or made up, however runs are cut", () => {
    let cut = 0;
    fc.assert(
      fc.property(
        fc.array(fc.stringMatching(/^[A-Z0-9]{1,6}$/), { minLength: 1, maxLength: 8 }),
        fc.integer({ min: 1, max: 3 }),
        (all, every) => {
          const runs = all.flatMap((text, i) =>
            [...text].flatMap((_, k) => (k % every === 0 ? [run(text.slice(k, k + every), 100 * i + 6 * k, 0)] : [])),
          );
          if (runs.length > all.length) cut++;
          expect(wordsOf([...runs].reverse()).map((w) => w.text)).toEqual(all);
        },
      ),
      { seed: 11 },
    );
    expect(cut).toBeGreaterThan(20);
  });
});

describe("sheets", () => {
  const sheets = (...all: Parameters<typeof page>[]): string[] =>
    sheetsOf(all.map((w) => ({ ...page(...w), w: 1, h: 1, label: null, trouble: null })));

  test("what most pages print of themselves, with the gap between two; else their number", () => {
    expect(
      sheets(
        ["Blatt", "10", "von", "40"],
        [
          ["Sheet", 0, 0],
          ["11", 0, 14],
        ],
        ["Page:", "12/40"],
        [],
        ["Bl.14"],
      ),
    ).toEqual(["10", "11", "12", "13", "14"]);
    // A heading of a table says the same on each page.
    expect(sheets(["Blatt", "1"], ["Blatt", "1"], ["Blatt", "1"])).toEqual(["1", "2", "3"]);
    expect(sheets(["Blatt", "9"], [], [], [])).toEqual(["1", "2", "3", "4"]);
  });

  test("the sheet of a reference", () => {
    const all = ["5", "5.3", "5/3", "=B1/5.3", "=B1+A2/12", "sheet 7", "12a.4", "K"].map(sheetNamed);
    expect(all).toEqual(["5", "5", "5", "5", "12", "7", "12a", null]);
  });
});

describe("PDF", () => {
  const read = async (bytes: Uint8Array): Promise<PageText[]> => {
    const pdf = await readPdf(bytes);
    if (!pdf.ok) throw new Error(pdf.found);
    return pdf.pages;
  };
  const boxOf = ({ words }: PageText, text: string) => {
    const { x, y, w, h } = words.find((one) => one.text === text)!;
    return [x, y, w, h];
  };

  test("words stand where they are shown, however a page is turned", async () => {
    // -K1 in Helvetica of 10 points: 3.33 + 6.67 + 5.56 = 15.6 wide.
    for (const packed of [false, true]) {
      const pages = await read(
        pdfOf(
          ([0, 90, 180, 270] as const).map((rotate) => ({ ...A4(textOut(100, 700, 10, "-K1")), rotate })),
          { packed },
        ),
      );
      expect(pages.map((p) => [p.w, p.h])).toEqual([
        [595, 842],
        [842, 595],
        [595, 842],
        [842, 595],
      ]);
      expect(pages.map((p) => boxOf(p, "-K1"))).toEqual([
        [100, 134.2, 15.6, 10],
        [697.8, 100, 10, 15.6],
        [479.4, 697.8, 15.6, 10],
        [134.2, 479.4, 10, 15.6],
      ]);
    }
  });

  test("labels, pages without text, a damaged page among others", async () => {
    const labels = "/PageLabels << /Nums [0 << /S /r >> 2 << /S /D /St 5 >>] >>";
    const whole = await read(pdfOf([A4(textOut(9, 9, 9, "-K1")), A4(), A4(textOut(9, 9, 9, "-K13"))], { labels }));
    expect(whole.map((p) => [p.label, p.words.map((w) => w.text)])).toEqual([
      ["i", ["-K1"]],
      ["ii", []],
      ["5", ["-K13"]],
    ]);
    const found = foundIn(design, [
      { id: "d", name: "d.pdf", pages: whole, found: findInDocument(design, { pages: whole }) },
    ]);
    expect(found.documents[0]!.pages.map((p) => [p.sheet, p.things, p.empty])).toEqual([
      ["i", 1, false],
      ["ii", 0, true],
      ["5", 1, false],
    ]);
    expect(found.nowhere).toEqual(["+A1-S1", "+A2-S1", "-A1"]);
    const damaged = await read(
      assembled([
        "<< /Type /Catalog /Pages 2 0 R >>",
        "<< /Type /Pages /Kids [3 0 R 9 0 R] /Count 2 >>",
        "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 90 90] /Resources << /Font << /F 4 0 R >> >> /Contents 5 0 R >>",
        "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>",
        streamOf(new TextEncoder().encode(textOut(9, 9, 9, "-K1")), false),
      ]),
    );
    expect(damaged.map((p) => [p.words.length, p.trouble])).toEqual([
      [1, null],
      [0, "The page is damaged: its text could not be read."],
    ]);
  });

  test("what is no PDF, damaged, protected or too large is refused with its reason", async () => {
    const said = async (bytes: Uint8Array): Promise<string> => {
      const pdf = await readPdf(bytes);
      return pdf.ok ? `${pdf.pages.length} pages` : pdf.found;
    };
    const good = pdfOf([A4(textOut(9, 9, 9, "-K1"))]);
    expect(isPdf(good)).toBe(true);
    expect(await said(good.slice(5))).toBe("no PDF");
    expect(await said(good.slice(0, 200))).toMatch(/^a damaged PDF/);
    const bomb = assembled([
      "<< /Type /Catalog /Pages 2 0 R >>",
      "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
      "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 9 9] /Contents 4 0 R >>",
      streamOf(new Uint8Array(150 * 1024 * 1024).fill(32), true),
    ]);
    expect(await said(bomb)).toContain("unpacks to far more");
    // What bounds it is gone again.
    expect(new Uint8Array(200 * 1024 * 1024)).toHaveLength(200 * 1024 * 1024);
    expect(await said(good)).toBe("1 pages");
  });
});

test("the page that the design names comes first, also where nothing was found on it", () => {
  const pages: PageText[] = [["-A1", "-K1"], ["-A1"], []].map((texts) => ({
    ...{ w: 9, h: 9, label: null, trouble: null },
    ...page(...texts),
  }));
  const at = (d: Design, tag: string) => {
    const found = foundIn(d, [{ id: "d", name: "Plan.pdf", pages, found: findInDocument(d, { pages }) }]);
    return found.things.find((t) => t.of === tag)?.at.map((a) => `${a.page} ${a.by} ${a.times}`);
  };
  expect(at(design, "-A1")).toEqual(["2 tag 1", "1 tag 1"]);
  // Wire 7 is too short a number to be looked for: it is told where both of its devices stand together.
  const together = [["-K13", "-K1"], ["-K1"]].map((texts) => ({ ...pages[0]!, ...page(...texts) }));
  const found = foundIn(design, [
    { id: "d", name: "d", pages: together, found: findInDocument(design, { pages: together }) },
  ]);
  expect(found.things.filter((t) => t.kind === "wire")).toEqual([
    { kind: "wire", of: "7", at: [{ document: "d", page: 1, times: 0, by: "both ends" }] },
  ]);
  const named = { ...design, attachments: [{ name: "plan.PDF", kind: "schematic", page: 3, for: "-K1" }] };
  expect(at(named, "-K1")).toEqual(["3 the design 0", "1 tag 1"]);
  // On sheet 2 -K13 was looked for and not found; sheet 3 holds no text, so that the design is believed.
  const nowhere = (sheet: string): string[] => {
    const d = { ...design, devices: [{ tag: "-K13", part: "P", sheet }] };
    return foundIn(d, [{ id: "d", name: "d", pages, found: findInDocument(d, { pages }) }]).nowhere;
  };
  expect([nowhere("2"), nowhere("3"), nowhere("9")]).toEqual([["-K13"], [], ["-K13"]]);
});
