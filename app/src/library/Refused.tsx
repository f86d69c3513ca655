import { View } from "react-native";
import { ApiError } from "../kit/api";
import { Failed } from "../kit/States";
import { Head, Mono, Small } from "../kit/Text";

/** Why a library, or a part of it, cannot be taken: each place with what was found and what is wanted. */
export function Refused({ error }: { error: Error }) {
  if (!(error instanceof ApiError) || !error.body.faults) return <Failed error={error} />;
  return (
    <View role="alert" className="gap-1 border-l-4 border-brick pl-3" testID="library-refused">
      <Head>{error.body.message}</Head>
      {error.body.faults.map((f, i) => (
        <View key={i}>
          <Mono className="break-all text-small">{f.path}</Mono>
          <Small>
            found {f.found}; expected {f.expected}
          </Small>
        </View>
      ))}
    </View>
  );
}
