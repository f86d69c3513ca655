import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import type { ReactNode } from "react";
import { SettingsProvider } from "../kit/settings";

/** Renders a piece of the app with what every view has around it. */
export function page(node: ReactNode) {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  return render(
    <SettingsProvider>
      <QueryClientProvider client={client}>{node}</QueryClientProvider>
    </SettingsProvider>,
  );
}

/** Answers calls of the server from a list of path → [status, body]; anything else fails the test. */
export function serve(answers: Record<string, [number, unknown]>): jest.Mock {
  const fetch = jest.fn((path: string, init?: { method?: string }) => {
    const key = `${init?.method ?? "GET"} ${path}`;
    const answer = answers[key];
    if (!answer) throw new Error(`nobody answers ${key}`);
    const [status, body] = answer;
    return Promise.resolve({
      status,
      ok: status < 400,
      headers: new Headers(),
      text: () => Promise.resolve(JSON.stringify(body)),
    });
  });
  Object.assign(globalThis, { fetch });
  return fetch;
}
