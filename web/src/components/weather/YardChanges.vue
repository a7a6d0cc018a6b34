<script setup lang="ts">
import type { Schemas } from "../../api/client";
import { shown, unitOf, type Quantity } from "../../units";
import { dayName, listing, momentName } from "../../words";

/** What was changed of the yard, its prices and its weather by hand, the newest first. */
const props = defineProps<{
  changes: readonly Schemas["ChangeOut"][];
  /** What keys stand for: of tools, stations, units and things in the house. */ words: Readonly<Record<string, string>>;
}>();

const MOST = 40;
/** A setting's name on this page, and what it is told in. */
const NAMES: Readonly<Record<string, readonly [name: string, what?: Quantity]>> = {
  mild: ["mean of the year", "temperature"],
  swing: ["summer above the mean", "warmer"],
  seed: ["which weather"],
  hardness: ["hardness of the water"],
  drop: ["a drop (ml)"],
  bottles: ["bottles", "volume"],
  tools: ["what you measure with"],
  region: ["units and clock"],
  currency: ["money"],
  away: ["days away"],
};

function told(what: string, name: string, value: string): string {
  if (value === "none" && name !== "weather source") return "nothing";
  if (what === "prices") return value.split(", ").join(" for ");
  const quantity = NAMES[name]?.[1];
  const parts = value
    .replace(/\d{4}-\d\d-\d\d/g, dayName)
    .split(", ")
    .map((one) => props.words[one] ?? (quantity && one.trim() ? shown(Number(one), quantity) : one));
  return listing(parts) + (quantity ? ` ${unitOf(quantity)}` : "");
}
</script>

<template>
  <details v-if="changes.length" class="sheet">
    <summary>What was changed here ({{ changes.length }})</summary>
    <ul class="small">
      <li v-for="(c, k) in changes.slice(0, MOST)" :key="k">
        {{ momentName(c.made_at) }}:
        <template v-for="(p, n) in c.parts" :key="p.name"
          >{{ n ? "; " : "" }}{{ NAMES[p.name]?.[0] ?? p.name }} from {{ told(c.what, p.name, p.before) }} to {{ told(c.what, p.name, p.after) }}</template
        >
      </li>
    </ul>
  </details>
</template>

<style scoped>
ul {
  margin: 0;
  padding-left: 1.2em;
}
</style>
