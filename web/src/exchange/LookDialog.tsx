import { useQuery } from "@tanstack/react-query";
import { Button, Progress } from "antd";
import { useState } from "react";
import { api, unwrap, type Import, type ImportOptions } from "../api/client";
import { librariesChanged } from "../api/queries";
import { Dialog } from "../ui/Dialog";
import { toast } from "../ui/toasts";
import { useRefusal } from "../ui/useRefusal";
import { undo } from "../items/undoing";
import { ImportFindings } from "./ImportFindings";
import { ImportHow } from "./ImportHow";
import { withOption } from "./importing";
import "./exchange.css";

interface Props {
  title: string;
  /** What is looked at: nothing else has this key. */
  name: readonly unknown[];
  open: () => Promise<Import>;
  /** Whether it can be chosen how it is read. */
  hasOptions: boolean;
  /** What bringing it in is called. */
  verb: string;
  /** Whether it is worth bringing in even where nothing would change. */
  evenNothing?: boolean;
  onClose: () => void;
}

/**
 * Something that is looked at before it is brought in: how it is read, what it would add and change, what is wrong in it, and what it gets in the
 * way of.
 */
export function LookDialog({ title, name, open, hasOptions, verb, evenNothing = false, onClose }: Props) {
  const [options, setOptions] = useState<ImportOptions>();
  const [fault, attempt] = useRefusal();
  const { data: opened, error } = useQuery({
    queryKey: ["import", "open", ...name],
    queryFn: open,
    gcTime: 0,
    staleTime: Infinity,
    retry: false,
    refetchOnWindowFocus: false,
  });
  const id = opened?.id;
  const { data: looked, refetch } = useQuery({
    queryKey: ["import", id, options],
    queryFn: (): Promise<Import> => unwrap(api.GET("/api/imports/{id}", { params: { path: { id: id! } } })),
    enabled: id !== undefined,
    gcTime: 0,
    placeholderData: (before) => before,
    refetchInterval: ({ state }) => (state.data?.state === "working" ? 150 : false),
  });

  const change = async (part: Partial<ImportOptions>) => {
    if (!looked) return;
    const next = withOption(options ?? looked.options, part);
    await attempt(async () => {
      await unwrap(api.PUT("/api/imports/{id}", { params: { path: { id: looked.id } }, body: next }));
      setOptions(next);
      await refetch();
    });
  };

  const close = () => {
    if (id !== undefined) void api.DELETE("/api/imports/{id}", { params: { path: { id } } });
    onClose();
  };

  const bring = () =>
    attempt(async () => {
      const brought = await unwrap(api.POST("/api/imports/{id}/bring", { params: { path: { id: id! } } }));
      toast(`${brought.snippets === 1 ? "1 snippet is" : `${brought.snippets} snippets are`} in.`, {
        key: "undo",
        action: { label: "Undo", act: () => void undo() },
        ...(brought.missing.length > 0 ? { detail: brought.missing.join(" "), seconds: 20 } : {}),
      });
      onClose();
      await librariesChanged();
    });

  const working = id === undefined ? error === null : looked?.state === "working";
  const problem = error?.message ?? looked?.problem ?? fault;
  const preview = looked?.preview;
  const comes = (preview?.adds ?? 0) + (preview?.changes ?? 0);
  return (
    <Dialog
      open
      title={title}
      width={1040}
      style={{ top: 40 }}
      onCancel={close}
      footer={
        <div className="import-foot">
          {working && (
            <>
              <Progress percent={Math.round((looked?.progress ?? 0) * 100)} size="small" aria-label="Looking at it" />
              <Button
                disabled={id === undefined}
                onClick={() =>
                  void attempt(async () => {
                    await unwrap(api.POST("/api/imports/{id}/stop", { params: { path: { id: id! } } }));
                    await refetch();
                  })
                }
              >
                Stop
              </Button>
            </>
          )}
          {looked?.state === "stopped" && (
            <span className="soft">Stopped: what it gets in the way of is not known.</span>
          )}
          <span className="spacer" />
          <Button onClick={close}>Leave it</Button>
          <Button
            type="primary"
            disabled={
              !(
                looked?.state === "stopped" ||
                (looked?.state === "ready" && (evenNothing || comes > 0 || (preview?.gone ?? 0) > 0))
              )
            }
            onClick={() => void bring()}
          >
            {preview && comes > 0 ? `${verb} ${comes === 1 ? "1 snippet" : `${comes} snippets`}` : verb}
          </Button>
        </div>
      }
    >
      {hasOptions && looked && <ImportHow import={looked} onChange={(part) => void change(part)} />}
      {problem && (
        <p className="fault" role="alert">
          {problem}
        </p>
      )}
      {preview ? (
        <ImportFindings preview={preview} />
      ) : (
        !problem && looked?.state !== "stopped" && <p className="soft">Looking at it …</p>
      )}
    </Dialog>
  );
}
