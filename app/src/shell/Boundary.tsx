import { Component, type ComponentType, type ReactNode } from "react";
import { ScrollView, Text, View } from "react-native";
import { Button, LinkLine } from "../kit/Button";
import { jobHref } from "../kit/links";
import { asksServer } from "../kit/reach";
import { Body, Head, Small } from "../kit/Text";

interface Props {
  /** Path of what is shown: with another one it is tried anew. */
  path: string;
  children: ReactNode;
  /** Head line and ways on, in which it is told that a view cannot be shown. */
  frame?: ComponentType<{ path: string; children: ReactNode }>;
  /** Whether the server answers. */
  reach?(): Promise<boolean>;
  reload?(): void;
}

interface State {
  error: Error | null;
  /** Path at which it went wrong. */
  at: string;
  /** It went wrong again when it was tried again. */
  again: boolean;
  /** How often the server was asked in vain. */
  refused: number;
}

/**
 * Stands round every view. One that cannot be shown, because its program did not come or it has a fault, says so, what to do, and where else
 * to go; it is tried again by hand, when the network is back, and when another view is gone to.
 */
export class Boundary extends Component<Props, State> {
  override state: State = { error: null, at: "", again: false, refused: 0 };

  static getDerivedStateFromError(error: unknown): Partial<State> {
    return { error: error instanceof Error ? error : new Error(String(error)) };
  }

  static getDerivedStateFromProps({ path }: Props, { error, at }: State): Partial<State> | null {
    if (error === null || at === "") return { at: path };
    return at === path ? null : { error: null, at: path, again: false, refused: 0 };
  }

  override componentDidMount(): void {
    window.addEventListener("online", this.retry);
  }

  override componentWillUnmount(): void {
    window.removeEventListener("online", this.retry);
  }

  retry = (): void => {
    const { error, again } = this.state;
    if (error === null) return;
    if (again || isLoading(error)) void this.#reload();
    else this.setState({ error: null, again: true });
  };

  /** A program that did not come is asked for anew by loading the page: only where the server answers, else there were no page at all. */
  async #reload(): Promise<void> {
    const { reach = asksServer, reload = () => window.location.reload() } = this.props;
    if (await reach()) reload();
    else this.setState(({ refused }) => ({ refused: refused + 1 }));
  }

  override render(): ReactNode {
    const { error, refused } = this.state;
    const { path, children, frame: Frame } = this.props;
    if (error === null) return children;
    const trouble = <Trouble error={error} path={path} refused={refused} retry={this.retry} />;
    return Frame ? (
      <Otherwise shown={trouble}>
        <Frame path={path}>{trouble}</Frame>
      </Otherwise>
    ) : (
      trouble
    );
  }
}

/** Shows something else where its children go wrong too. */
class Otherwise extends Component<{ shown: ReactNode; children: ReactNode }, { wrong: boolean }> {
  override state = { wrong: false };

  static getDerivedStateFromError(): { wrong: boolean } {
    return { wrong: true };
  }

  override render(): ReactNode {
    return this.state.wrong ? this.props.shown : this.props.children;
  }
}

/** Whether a part of the program did not come. */
const isLoading = ({ name, message }: Error): boolean =>
  name === "AsyncRequireError" || /^(Loading module .* failed|Failed to load)/s.test(message);

function Trouble({ error, path, refused, retry }: { error: Error; path: string; refused: number; retry(): void }) {
  const [, job] = /^\/jobs\/([^/]+)\/./.exec(path) ?? [];
  const away = isLoading(error);
  return (
    <ScrollView className="flex-1 bg-paper">
      <View testID="trouble" role="alert" className="max-w-160 gap-3 border-l-4 border-brick p-4">
        <Head>{away ? "This view has not come yet." : "This view cannot be shown."}</Head>
        <Body>
          {away
            ? "Its program is fetched from the server, which cannot be reached. What you entered is kept on this device. It is tried again when the network is back."
            : "The program made a mistake. Nothing that is kept is lost."}
        </Body>
        {away ? null : (
          <Small>
            <Text>{error.message.slice(0, 200)}</Text>
          </Small>
        )}
        {refused > 0 ? (
          <Small testID="trouble-refused">
            {refused === 1
              ? "The server does not answer yet."
              : `The server does not answer yet; it was asked ${refused} times.`}
          </Small>
        ) : null}
        <View className="flex-row">
          <Button label="Try again" kind="solid" onPress={retry} testID="trouble-retry" />
        </View>
        {job === undefined ? null : (
          <LinkLine href={jobHref(decodeURIComponent(job))} label={`Desk of ${decodeURIComponent(job)}`} />
        )}
        <LinkLine href="/" label="All jobs" />
      </View>
    </ScrollView>
  );
}
