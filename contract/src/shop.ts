import { formOf, filled, form, maybe, objectOf, type ValueOf } from "@gray-bench/core/form/form";
import type { PointCount } from "@gray-bench/core/design/open-points";
import type { Figure, Told } from "@gray-bench/core/frame/stage";
import type { Shop } from "@gray-bench/core/shop/shop";
import type { StageName } from "@gray-bench/core/stage-names";
import Joi from "joi";
import { hash, who } from "./common";

/** One version of the shop's rules. */
export interface ShopVersion {
  number: number;
  hash: string;
  who: string;
  when: string;
  why: string | null;
  /** What it changed against the one before, in sentences. */
  changes: string[];
  /** Places of the rules it changed. */
  places: string[];
}

export interface ShopReply extends ShopVersion {
  shop: Shop;
}

/** What a change would do to the numbers of a job. */
export interface Outlook {
  figures: { stage: StageName; id: string; label: string; unit: Figure["unit"]; before: number; after: number }[];
  open: { before: PointCount; after: PointCount };
  words: Told[];
}

/** What a changed shop would do to one job. */
export interface ShopEffect extends Outlook {
  code: string;
  title: string;
}

export interface ShopEffects {
  jobs: ShopEffect[];
  /** Jobs that could not be computed, with the reason: they do not keep the others from being told. */
  failed: { code: string; title: string; why: string }[];
  /** Of so many jobs in all. */
  total: number;
}

export const shopRequest = objectOf({
  /** Hash of the shop that was before whoever changes it. */
  on: hash,
  who,
  why: maybe(form(Joi.string().max(500))),
  shop: formOf<unknown>(Joi.object()),
});
export interface ShopRequest extends ValueOf<typeof shopRequest> {}

export const shopProposal = objectOf({
  shop: formOf<unknown>(Joi.object()),
});

/** `shop`: the version to compute the job with; the newest when absent. */
export const takeOverRequest = objectOf({
  shop: maybe(form(Joi.string().pattern(/^[0-9a-f]{64}$/))),
  who,
});

export const versionParams = objectOf({
  number: form(Joi.number().integer().min(1)),
});

/** Of how many jobs a changed shop is shown what it does to: the ones due first. */
export const effectsQuery = objectOf({
  most: filled(form(Joi.number().integer().min(1).max(100)), 20),
});
