<script setup lang="ts">
import { RouterLink } from "vue-router";
import type { Schemas } from "../../api/client";
import { volume } from "../../mixing";
import BottlePicture from "./BottlePicture.vue";

/** The bottle as it is filled, and what it costs. */
const props = defineProps<{ mix: Schemas["MixOut"]; currency: string }>();

function money(value: number): string {
  return `${props.currency} ${value < 0.1 ? value.toFixed(3) : value.toFixed(2)}`;
}
</script>

<template>
  <section class="sheet stack" aria-labelledby="bottle">
    <h2 id="bottle">{{ volume(mix.volume) }} in a bottle of {{ volume(mix.bottle) }}</h2>
    <BottlePicture :mix="mix" />
    <p v-if="mix.cost.per_litre > 0">
      It costs {{ money(mix.cost.per_litre) }} a litre, {{ money(mix.cost.per_round) }} a round<template v-if="mix.cost.per_plant !== null"
        >, {{ money(mix.cost.per_plant) }} a plant</template
      ><template v-if="mix.cost.missing.length"> (without {{ mix.cost.missing.join(", ") }}: no price)</template>.
    </p>
    <p v-else class="small soft">Enter prices in <RouterLink to="/yard">the yard</RouterLink> to see what it costs.</p>
  </section>
</template>
