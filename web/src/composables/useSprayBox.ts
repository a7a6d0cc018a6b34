// Sprays recorded out of reach.
import { client, take, type Round, type Schemas } from "../api/client";
import { deviceBox, type Box } from "../deviceBox";
import { createSendBox, nextOrder, sendWhenItCan, type SendBox, type ToSend } from "./sendBox";

export interface KeptSpray extends ToSend {
  trial: number;
  round: number;
  plant: string;
  body: Schemas["SprayIn"];
}

export type SendSpray = (spray: KeptSpray) => Promise<Round>;

export interface SprayBox extends Omit<SendBox<KeptSpray, Round>, "put" | "all"> {
  /** What this device holds of a round, the refused ones too. */
  of: (trial: number, round: number) => KeptSpray[];
  /** Keeps one on this device; sent twice under one key it is one. */
  put: (spray: Omit<KeptSpray, "key" | "order">) => KeptSpray;
}

export function createSprayBox(send: SendSpray, opened: Promise<Box>): SprayBox {
  const box = createSendBox<KeptSpray, Round>("sprays", "a spray", send, opened);
  return {
    ...box,
    of: (trial, round) => box.all.value.filter((s) => s.trial === trial && s.round === round),
    put: (spray) => {
      const order = nextOrder(box.all.value);
      const kept = { ...spray, key: spray.body.key ?? `spray-${order}`, order };
      box.put(kept);
      return kept;
    },
  };
}

let shared: SprayBox | undefined;

/** The one box of sprays of this device. */
export function useSprayBox(): SprayBox {
  if (!shared) {
    shared = createSprayBox(
      (spray) =>
        take(
          client.POST("/api/trials/{trial_id}/rounds/{number}/sprays", { params: { path: { trial_id: spray.trial, number: spray.round } }, body: spray.body }),
        ),
      deviceBox(),
    );
    sendWhenItCan(shared);
  }
  return shared;
}
