import { BenchError, noSuchJob, refused, runCancelled, runFailed, toReply } from "../src/errors";

test.each<[string, unknown, number, string]>([
  ["an own error keeps its status", noSuchJob("X"), 404, "job.unknown"],
  ["a refusal", refused([{ path: "a", found: "b", expected: "c" }], 1), 422, "design.refused"],
  ["a cancelled run", runCancelled("X"), 409, "run.cancelled"],
  ["a failed run", runFailed("X"), 500, "run.failed"],
  [
    "another media type",
    Object.assign(new Error("x"), { code: "FST_ERR_CTP_INVALID_MEDIA_TYPE", statusCode: 415 }),
    415,
    "body.type",
  ],
  [
    "a parameter of the wrong form",
    Object.assign(new Error("q"), { validation: [], statusCode: 400 }),
    400,
    "request.invalid",
  ],
  ["too many requests", Object.assign(new Error("x"), { statusCode: 429 }), 429, "rate.limit"],
  ["any other fault of the request", Object.assign(new Error("x"), { statusCode: 405 }), 405, "request.invalid"],
  ["anything else", new Error("secret path /etc"), 500, "internal"],
  ["even what is no error", "text", 500, "internal"],
])("%s", (_name, thrown, status, code) => {
  const reply = toReply(thrown);
  expect([reply.status, reply.body.code]).toEqual([status, code]);
  expect(reply.body.remedy).not.toBe("");
  if (code === "internal") expect(JSON.stringify(reply.body)).not.toContain("secret");
});

test("one fault is told in the singular", () => {
  expect(refused([{ path: "job", found: "x", expected: "y" }], 1).message).toBe(
    "The design was refused: 1 fault. Nothing was imported.",
  );
  expect(refused([], 2)).toBeInstanceOf(BenchError);
});
