import type { Server as HttpServer } from "node:http";
import { createServer, type Server as TcpServer } from "node:net";

/** Listens; resolves with the port it got. */
export const listen = (server: TcpServer | HttpServer, port: number, host: string): Promise<number> =>
  new Promise((resolve, reject) => {
    server.once("error", reject);
    server.listen(port, host, () => {
      const address = server.address();
      resolve(typeof address === "object" && address !== null ? address.port : port);
    });
  });

/** A file has no more bytes. */
const MOST_BYTES = 20_000_000;

export interface FileLine {
  /** What a file is called where one is refused. */
  file?: string;
  /** What a name looks like. */
  name?: RegExp;
  /** For trying out: every answer comes so much later. ms */
  slowMs?: number;
}

/** Takes files over TCP: the first line names the file, then comes the file; it is answered with one line. */
export const filesOverTcp = (
  answer: (name: string, file: Buffer) => string,
  { file = "file", name: named = /./, slowMs }: FileLine = {},
): TcpServer =>
  createServer({ allowHalfOpen: true }, (socket) => {
    const parts: Buffer[] = [];
    let size = 0;
    socket.on("error", () => socket.destroy());
    socket.on("data", (part: Buffer) => {
      size += part.length;
      if (size <= MOST_BYTES) return void parts.push(part);
      // What goes on coming is not kept.
      parts.length = 0;
      socket.end(`refused: the ${file} is too large\r\n`);
    });
    socket.on("end", () => {
      if (size > MOST_BYTES) return;
      const bytes = Buffer.concat(parts);
      const end = bytes.indexOf("\n");
      const name = bytes.subarray(0, Math.max(0, end)).toString("utf8").trim();
      later(slowMs, () =>
        socket.end(
          `${named.test(name) ? answer(name, bytes.subarray(end + 1)) : `refused: the first line names the ${file}`}\r\n`,
        ),
      );
    });
  });

/** Runs something at once, or so much later. */
export const later = (ms: number | undefined, run: () => void): void => void (ms ? setTimeout(run, ms) : run());

/** Closes both sides of a machine, with what hangs on its address. */
export async function closeBoth(tcp: TcpServer, http: HttpServer): Promise<void> {
  http.closeAllConnections();
  await Promise.all([tcp, http].map((server) => new Promise<void>((done) => server.close(() => done()))));
}
