import type { FastifyRequest } from "fastify";
import { methodUnknown, nothingThere } from "../errors";
import type { Server } from "../server";

interface Known {
  pattern: RegExp;
  methods: Set<string>;
}

/** Remembers every path with its methods, so that a wrong method is told from a wrong path. */
export function rememberRoutes(app: Server): (req: FastifyRequest) => { error: Error; allow: string | null } {
  const known = new Map<string, Known>();
  app.addHook("onRoute", ({ url, method }) => {
    if (!url.startsWith("/api/")) return;
    const there = known.get(url);
    const methods = [method].flat();
    if (there) for (const m of methods) there.methods.add(m);
    else known.set(url, { pattern: new RegExp(`^${url.replace(/:\w+/g, "[^/]+")}/?$`), methods: new Set(methods) });
  });
  return (req) => {
    const path = req.url.split("?")[0]!;
    const there = [...known.values()].filter((k) => k.pattern.test(path));
    if (there.length === 0) return { error: nothingThere(req.method, path), allow: null };
    const allow = [...new Set(there.flatMap((k) => [...k.methods]))].sort().join(", ");
    return { error: methodUnknown(req.method, path, allow), allow };
  };
}
