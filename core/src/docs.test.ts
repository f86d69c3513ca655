import { existsSync, readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

const ROOT = join(__dirname, "../..");
const read = (file: string): string => readFileSync(join(ROOT, file), "utf8");

test("the tour leads to files that stand, and to what is said to be in them", () => {
  const tour = read("docs/tour.md");
  const files = [...tour.matchAll(/`((?:core|server|app)\/src\/[\w./[\]-]+\.tsx?)`/g)].map(([, file]) => file!);
  expect(files.length).toBeGreaterThan(30);
  expect(files.filter((file) => !existsSync(join(ROOT, file)))).toEqual([]);
  const named = [...tour.matchAll(/`(\w+)` in `([\w./-]+)`/g)];
  expect(named.length).toBeGreaterThan(20);
  expect(
    named.flatMap(([, name, file]) =>
      new RegExp(`\\b(function|class|interface|const|async)\\s+${name}\\b|^  (async )?${name}\\(`, "m").test(
        read(file!),
      )
        ? []
        : [`${name} in ${file}`],
    ),
  ).toEqual([]);
});

test("pages of the documents lead to pages and pictures that stand", () => {
  const stages = readdirSync(join(ROOT, "docs/calculations")).map((page) => `docs/calculations/${page}`);
  const own = ["guide", "limits", "running", "tour"].map((page) => `docs/${page}.md`);
  const pages = ["README.md", "CONTRIBUTING.md", ...own, ...stages];
  const broken = pages.flatMap((page) =>
    [...read(page).matchAll(/\]\((?!https?:|#|mailto:)([^)#]+)/g)].flatMap(([, to]) =>
      existsSync(join(ROOT, page, "..", to!)) ? [] : [`${page} → ${to}`],
    ),
  );
  expect(broken).toEqual([]);
});
