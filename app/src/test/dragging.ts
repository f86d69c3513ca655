import type { ReactNode } from "react";
import * as dnd from "../kit/dnd";

/** What drags is there at once: tests do not wait for what a browser fetches. */
export const WithDragging = ({ children }: { children: (loaded: typeof dnd) => ReactNode }): ReactNode => children(dnd);
