// A tap that can be felt or heard, for eyes that are on the leaf.
import { ref, type Ref } from "vue";

export type Felt = "buzz" | "click" | "off";

const PLACE = "orthocris.felt";
let sound: AudioContext | undefined;

export function useFelt(): { felt: Ref<Felt>; next: () => void; tap: () => void } {
  const felt = ref<Felt>(kept());

  /** Buzz, click, nothing; a device that cannot buzz has two of them. */
  function next(): void {
    const all: Felt[] = canBuzz() ? ["buzz", "click", "off"] : ["click", "off"];
    felt.value = all[(all.indexOf(felt.value) + 1) % all.length] ?? "off";
    try {
      window.localStorage.setItem(PLACE, felt.value);
    } catch {
      // It holds as long as the page.
    }
    tap();
  }

  function tap(): void {
    if (felt.value === "buzz" && canBuzz()) navigator.vibrate(12);
    if (felt.value === "click") click();
  }

  return { felt, next, tap };
}

function canBuzz(): boolean {
  return typeof navigator.vibrate === "function";
}

function kept(): Felt {
  try {
    const found = window.localStorage.getItem(PLACE);
    if (found === "buzz" || found === "click" || found === "off") return found;
  } catch {
    // Nothing is kept here: the usual.
  }
  return canBuzz() ? "buzz" : "off";
}

function click(): void {
  sound ??= new AudioContext();
  const tone = sound.createOscillator();
  const level = sound.createGain();
  level.gain.setValueAtTime(0.15, sound.currentTime);
  level.gain.exponentialRampToValueAtTime(0.001, sound.currentTime + 0.03);
  tone.frequency.value = 1400;
  tone.connect(level).connect(sound.destination);
  tone.start();
  tone.stop(sound.currentTime + 0.03);
}
