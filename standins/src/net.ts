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

/** Takes files over TCP: the first line names the file, then comes the file; it is answered with one line. */
export const filesOverTcp = (answer: (name: string, file: Buffer) => string): TcpServer =>
  createServer({ allowHalfOpen: true }, (socket) => {
    const parts: Buffer[] = [];
    let size = 0;
    socket.on("error", () => socket.destroy());
    socket.on("data", (part: Buffer) => {
      size += part.length;
      if (size <= MOST_BYTES) parts.push(part);
      else socket.end("refused: the file is too large\r\n");
    });
    socket.on("end", () => {
      if (size > MOST_BYTES) return;
      const bytes = Buffer.concat(parts);
      const end = bytes.indexOf("\n");
      const name = end < 0 ? "" : bytes.subarray(0, end).toString("utf8").trim();
      socket.end(
        `${name === "" ? "refused: the first line names the file" : answer(name, bytes.subarray(end + 1))}\r\n`,
      );
    });
  });
