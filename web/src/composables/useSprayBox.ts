// Sprays recorded out of reach: kept on this device, sent in their order once the program answers.
import { computed, ref, shallowRef, type ComputedRef, type Ref } from "vue";
import { asFault, client, take, type Fault, type Round, type Schemas } from "../api/client";
import { deviceBox, pageBox, type Box, type Kept } from "../deviceBox";

export interface KeptSpray extends Kept {
  trial: number;
  round: number;
  plant: string;
  body: Schemas["SprayIn"];
  /** Why the program refused it; it stays until somebody settles it. */
  fault?: Pick<Fault, "message" | "fix" | "code">;
}

export type SendSpray = (spray: KeptSpray) => Promise<Round>;

export interface SprayBox {
  ready: Promise<void>;
  /** What this device holds of a round, the refused ones too. */
  of: (trial: number, round: number) => KeptSpray[];
  waiting: ComputedRef<number>;
  refused: ComputedRef<KeptSpray[]>;
  trouble: Ref<string>;
  /** Keeps one on this device; sent twice under one key it is one. */
  put: (spray: Omit<KeptSpray, "key" | "order">) => KeptSpray;
  /** Takes one off this device that was not sent, or was refused. */
  drop: (spray: KeptSpray) => void;
  /** Sends what waits; returns the round as it stands after the last one sent, if any was. */
  flush: () => Promise<Round | null>;
}

export function createSprayBox(send: SendSpray, opened: Promise<Box>): SprayBox {
  const sprays = shallowRef<readonly KeptSpray[]>([]);
  const trouble = ref("");
  let box: Box = pageBox();
  let running: Promise<Round | null> | null = null;

  const ready = opened.then(
    async (found) => {
      box = found;
      sprays.value = [...(await box.load<KeptSpray>("sprays")), ...sprays.value];
    },
    () => {
      trouble.value = "This browser keeps nothing on the device: a spray recorded without a connection is lost when the page closes.";
    },
  );

  function change(next: readonly KeptSpray[], work: () => Promise<void>): void {
    sprays.value = next;
    void work().catch(() => (trouble.value = "This device could not keep the last spray: storage is full. Stay on this page until all is sent."));
  }

  function drop(spray: KeptSpray): void {
    change(sprays.value.filter((s) => s.key !== spray.key), () => box.remove("sprays", [spray.key]));
  }

  async function sendAll(): Promise<Round | null> {
    let round: Round | null = null;
    for (;;) {
      const next = sprays.value.find((s) => !s.fault);
      if (!next) return round;
      try {
        round = await send(next);
        drop(next);
      } catch (thrown) {
        const fault = asFault(thrown);
        if (fault.offline || fault.status === 401 || fault.status >= 500) return round;
        const refused = { ...next, fault: { code: fault.code, message: fault.message, fix: fault.fix } };
        change(sprays.value.map((s) => (s.key === next.key ? refused : s)), () => box.put("sprays", [refused]));
      }
    }
  }

  return {
    ready,
    of: (trial, round) => sprays.value.filter((s) => s.trial === trial && s.round === round),
    waiting: computed(() => sprays.value.filter((s) => !s.fault).length),
    refused: computed(() => sprays.value.filter((s) => s.fault)),
    trouble,
    put: (spray) => {
      const order = Math.max(0, ...sprays.value.map((s) => s.order)) + 1;
      const kept = { ...spray, key: spray.body.key ?? `spray-${order}`, order };
      change([...sprays.value.filter((s) => s.key !== kept.key), kept], () => box.put("sprays", [kept]));
      return kept;
    },
    drop,
    flush: async () => {
      running ??= ready.then(sendAll).finally(() => (running = null));
      return running;
    },
  };
}

const AGAIN_MS = 5000;
let shared: SprayBox | undefined;

/** The one box of sprays of this device. */
export function useSprayBox(): SprayBox {
  if (!shared) {
    const box = createSprayBox(
      (spray) => take(client.POST("/api/trials/{trial_id}/rounds/{number}/sprays", { params: { path: { trial_id: spray.trial, number: spray.round } }, body: spray.body })),
      deviceBox(),
    );
    const send = (): void => {
      if (box.waiting.value) void box.flush();
    };
    void box.ready.then(send);
    window.addEventListener("online", send);
    window.setInterval(send, AGAIN_MS);
    shared = box;
  }
  return shared;
}
