import { useRef } from "react";
import Paperclip from "lucide-react-native/icons/paperclip";
import { Button } from "../kit/Button";
import { useTokens } from "../kit/settings";
import { Failed } from "../kit/States";
import { useAttach, type AttachedThing } from "./useAttachments";

const ATTACHABLE = "application/pdf,image/png,image/jpeg,image/webp";

/** Attaches files to a thing; on a phone also what its camera takes. */
export function AttachButton({ job, to }: { job: string; to: AttachedThing | null }) {
  const t = useTokens();
  const { add } = useAttach(job);
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        multiple
        accept={ATTACHABLE}
        hidden
        aria-label="Files to attach"
        data-testid="attach-input"
        onChange={(e) => {
          const files = [...(e.currentTarget.files ?? [])];
          // The same file may be chosen again.
          e.currentTarget.value = "";
          if (files.length > 0) add.mutate({ files, to });
        }}
      />
      <Button
        label={add.isPending ? "Reading …" : "Attach a file"}
        disabled={add.isPending}
        icon={<Paperclip size={18} color={t.graphite} />}
        onPress={() => input.current?.click()}
        testID="attach"
      />
      {add.error ? <Failed error={add.error} /> : null}
    </>
  );
}
