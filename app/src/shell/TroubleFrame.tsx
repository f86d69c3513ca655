import type { ReactNode } from "react";
import { useJob } from "../queries/useJobs";
import { Shell } from "./Shell";

/** The head line, and of a job its Rule, round a view that cannot be shown: other views are a tap away. */
export function TroubleFrame({ path, children }: { path: string; children: ReactNode }) {
  const [, job] = /^\/jobs\/([^/]+)/.exec(path) ?? [];
  return job === undefined ? (
    <Shell title="Not shown">{children}</Shell>
  ) : (
    <OfJob code={decodeURIComponent(job)}>{children}</OfJob>
  );
}

function OfJob({ code, children }: { code: string; children: ReactNode }) {
  const { data } = useJob(code);
  return (
    <Shell job={data} title={`Not shown, ${code}`}>
      {children}
    </Shell>
  );
}
