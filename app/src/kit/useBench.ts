import { useQuery } from "@tanstack/react-query";

export type Bench = typeof import("@gray-bench/core/bench");

/** Loads what works on designs and shops as a whole; large, so only where it is wanted. */
export const loadBench = (): Promise<Bench> => import("@gray-bench/core/bench");

export const useBench = () => useQuery({ queryKey: ["bench"], queryFn: loadBench, staleTime: Infinity });
