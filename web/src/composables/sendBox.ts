// Records made out of reach: kept on this device first, sent in their order once the program answers.
import { computed, ref, shallowRef, type ComputedRef, type Ref } from "vue";
import { asFault, type Fault } from "../api/client";
import { pageBox, type Box, type Kept, type Shelf } from "../deviceBox";

/** A record on its way; `fault` is why the program refused it: it stays until somebody settles it. */
export interface ToSend extends Kept {
  fault?: Pick<Fault, "message" | "fix" | "code">;
}

export interface SendBox<T extends ToSend, R> {
  ready: Promise<void>;
  /** All that this device holds, the refused ones too. */
  all: ComputedRef<readonly T[]>;
  waiting: ComputedRef<number>;
  refused: ComputedRef<T[]>;
  trouble: Ref<string>;
  /** Keeps one on this device; sent twice under one key it is one. */
  put: (record: T) => void;
  /** Takes one off this device that was not sent, or was refused. */
  drop: (record: T) => void;
  /** Sends what waits; returns what the last one sent was answered with, if any was. */
  flush: () => Promise<R | null>;
}

/** `what` names one of them where the device cannot keep it: "a spray". */
export function createSendBox<T extends ToSend, R>(shelf: Shelf, what: string, send: (record: T) => Promise<R>, opened: Promise<Box>): SendBox<T, R> {
  const records = shallowRef<readonly T[]>([]);
  const trouble = ref("");
  let box: Box = pageBox();
  let running: Promise<R | null> | null = null;

  const ready = opened.then(
    async (found) => {
      box = found;
      records.value = [...(await box.load<T>(shelf)), ...records.value];
    },
    () => {
      trouble.value = `This browser keeps nothing on the device: ${what} recorded without a connection is lost when the page closes.`;
    },
  );

  function change(next: readonly T[], work: () => Promise<void>): void {
    records.value = next;
    // What is put before the device's box is open goes into it, too.
    void ready.then(work).catch(() => (trouble.value = "This device could not keep the last one: storage is full. Stay on this page until all is sent."));
  }

  function drop(record: T): void {
    change(
      records.value.filter((r) => r.key !== record.key),
      () => box.remove(shelf, [record.key]),
    );
  }

  async function sendAll(): Promise<R | null> {
    let answer: R | null = null;
    for (;;) {
      const next = records.value.find((r) => !r.fault);
      if (!next) return answer;
      try {
        answer = await send(next);
        drop(next);
      } catch (thrown) {
        const fault = asFault(thrown);
        if (fault.offline || fault.status === 401 || fault.status >= 500) return answer;
        const refused = { ...next, fault: { code: fault.code, message: fault.message, fix: fault.fix } };
        change(
          records.value.map((r) => (r.key === next.key ? refused : r)),
          () => box.put(shelf, [refused]),
        );
      }
    }
  }

  return {
    ready,
    all: computed(() => records.value),
    waiting: computed(() => records.value.filter((r) => !r.fault).length),
    refused: computed(() => records.value.filter((r) => r.fault)),
    trouble,
    put: (record) => {
      change([...records.value.filter((r) => r.key !== record.key), record], () => box.put(shelf, [record]));
    },
    drop,
    flush: async () => {
      running ??= ready.then(sendAll).finally(() => (running = null));
      return running;
    },
  };
}

const AGAIN_MS = 5000;

/** Sends what waits in a box when the page opens, when the network is back, and again and again. */
export function sendWhenItCan(box: Pick<SendBox<ToSend, unknown>, "ready" | "waiting" | "flush">): void {
  const send = (): void => {
    if (box.waiting.value) void box.flush();
  };
  void box.ready.then(send);
  window.addEventListener("online", send);
  window.setInterval(send, AGAIN_MS);
}

/** The order of the next record: after all that are held. */
export function nextOrder(held: readonly Kept[]): number {
  return Math.max(0, ...held.map((r) => r.order)) + 1;
}
