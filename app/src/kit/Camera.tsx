import jsQR from "jsqr";
import { useEffect, useRef, useState } from "react";
import { useTokens } from "./settings";
import { Small } from "./Text";

/** Pictures looked at in a second: more would only warm the device. */
const EVERY_MS = 150;
/** Width a picture is looked at with. */
const LOOK_PX = 480;

/** The camera at the back of the device; the first code it sees is taken. */
export default function Camera({ take }: { take(code: string): void }) {
  const t = useTokens();
  const video = useRef<HTMLVideoElement>(null);
  const latest = useRef(take);
  const [error, setError] = useState<string | null>(null);
  useEffect(() => {
    latest.current = take;
  });
  useEffect(() => {
    const node = video.current!;
    const canvas = document.createElement("canvas");
    const pen = canvas.getContext("2d", { willReadFrequently: true })!;
    let stream: MediaStream | null = null;
    let over = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const look = (): void => {
      if (over) return;
      if (node.videoWidth > 0) {
        canvas.width = LOOK_PX;
        canvas.height = Math.round((LOOK_PX * node.videoHeight) / node.videoWidth);
        pen.drawImage(node, 0, 0, canvas.width, canvas.height);
        const { data, width, height } = pen.getImageData(0, 0, canvas.width, canvas.height);
        const code = jsQR(data, width, height)?.data;
        if (code) {
          over = true;
          latest.current(code);
          return;
        }
      }
      timer = setTimeout(look, EVERY_MS);
    };
    navigator.mediaDevices
      .getUserMedia({ video: { facingMode: "environment" } })
      .then(async (got) => {
        stream = got;
        if (over) return got.getTracks().forEach((t) => t.stop());
        node.srcObject = got;
        await node.play();
        look();
      })
      .catch((e: Error) => setError(e.name === "NotAllowedError" ? "not allowed" : "not there, or in use elsewhere"));
    return () => {
      over = true;
      clearTimeout(timer);
      stream?.getTracks().forEach((t) => t.stop());
    };
  }, []);
  return error ? (
    <Small role="alert" testID="camera-error">
      The camera is {error}. Type the code, or use a hand scanner.
    </Small>
  ) : (
    <video
      ref={video}
      muted
      playsInline
      aria-label="What the camera sees"
      data-testid="camera"
      style={{ width: "100%", maxHeight: 260, objectFit: "cover", background: t.graphite }}
    />
  );
}
