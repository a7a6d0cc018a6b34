<script setup lang="ts">
import type { Schemas } from "../../api/client";
import { how, life, roundingNote, volume } from "../../mixing";
import { strengthWords } from "../../units";

/** What goes into the bottle in order, with reasons, rounding and what to know of the mix. */
defineProps<{
  mix: Schemas["MixOut"];
  /** Without what to know of the mix when it is used. */ brief?: boolean;
  /** Its life and shaking are told beside it. */ ofBottle?: boolean;
}>();
</script>

<template>
  <div class="stack">
    <ol v-if="mix.brew.length" aria-label="First the brew">
      <li v-for="step in mix.brew" :key="step.text">
        <strong>{{ step.text }}</strong>
        <span v-if="step.measured" class="soft">With the {{ step.measured.tool }}.</span>
      </li>
    </ol>
    <ol>
      <li v-for="pour in mix.pours" :key="pour.name">
        <strong
          >{{ pour.name }}<template v-if="pour.role !== 'active'"> ({{ pour.role }})</template>: {{ how(pour) }}</strong
        >
        <span class="soft">{{ pour.reason }}</span>
        <span v-if="pour.measured && roundingNote(pour.measured, pour.amount, pour.unit)" :class="pour.measured.warns ? 'warns' : 'small soft'">{{
          roundingNote(pour.measured, pour.amount, pour.unit)
        }}</span>
      </li>
    </ol>
    <p v-for="warning in mix.warnings" :key="warning" class="warns">{{ warning }}</p>
    <p v-if="mix.volume > mix.needed">
      {{ volume(mix.needed) }} are needed. {{ volume(mix.volume) }} can be measured well with what you have: {{ volume(mix.volume - mix.needed) }} are left
      over.
    </p>
    <p>Ready to use: {{ mix.parts.map((p) => `${strengthWords(p.per_litre, p.unit)} ${p.name}`).join(", ") }}.</p>
    <p v-for="guess in mix.guesses" :key="guess" class="soft">Guessed: {{ guess }}.</p>
    <dl v-if="mix.like && !brief">
      <dt>Nearest known mix</dt>
      <dd>{{ mix.like }} (typical values below)</dd>
      <template v-if="mix.order_note"
        ><dt>Mixing</dt>
        <dd>{{ mix.order_note }}</dd></template
      >
      <template v-if="!ofBottle"
        ><dt>Use within</dt>
        <dd>{{ life(mix.life_hours) }}</dd></template
      >
      <template v-if="mix.agitation && !ofBottle"
        ><dt>Shaking</dt>
        <dd>{{ mix.agitation }}</dd></template
      >
      <template v-if="mix.coverage"
        ><dt>Coverage</dt>
        <dd>{{ mix.coverage }}</dd></template
      >
      <template v-if="mix.ml_per_plant"
        ><dt>Amount</dt>
        <dd>about {{ volume(mix.ml_per_plant) }} on a plant of middle size</dd></template
      >
      <template v-if="mix.interval_days"
        ><dt>Again</dt>
        <dd>not before {{ mix.interval_days }} days</dd></template
      >
      <template v-if="mix.suits.length"
        ><dt>For</dt>
        <dd>{{ mix.suits.join(", ") }}</dd></template
      >
      <template v-if="mix.spares.length"
        ><dt>Not for</dt>
        <dd>{{ mix.spares.join(", ") }}</dd></template
      >
      <template v-if="mix.dose_sign"
        ><dt>Once dry</dt>
        <dd>{{ mix.dose_sign }}</dd></template
      >
      <template v-if="mix.aftercare"
        ><dt>Afterwards</dt>
        <dd>{{ mix.aftercare }}</dd></template
      >
    </dl>
  </div>
</template>

<style scoped>
ol {
  display: grid;
  gap: var(--space-2);
  margin: 0;
  padding-left: 1.4em;
}

li > * {
  display: block;
}

.warns {
  color: var(--bad);
  font-weight: 650;
}

dl {
  display: grid;
  grid-template-columns: max-content minmax(0, 1fr);
  gap: var(--space-1) var(--space-4);
  margin: 0;
}

dt {
  font-weight: 650;
}

dd {
  margin: 0;
}
</style>
