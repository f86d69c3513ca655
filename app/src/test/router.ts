import { createElement, type ReactNode } from "react";

/** Stands in for the router: links are plain links, moves are only noted. */
interface LinkProps {
  href: string;
  children: ReactNode;
  testID?: string;
  "aria-current"?: "page" | "true";
}

export const Link = ({ href, children, testID, "aria-current": current }: LinkProps) =>
  createElement("a", { href, "data-testid": testID, "aria-current": current }, children);

export const usePathname = (): string => "/jobs/J/routes";

export const router = { push: jest.fn(), replace: jest.fn(), setParams: jest.fn() };
