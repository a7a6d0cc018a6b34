<script setup lang="ts">
import { useMixing } from "../../composables/useMixing";
import FieldRow from "../FieldRow.vue";

/** A stock to a strength, one part in so many, or an amount in other units. */
const bench = useMixing();
</script>

<template>
  <div v-if="bench.form.mode === 'strength'" class="pair">
    <FieldRow v-slot="{ id, described }" label="The stock has (%)" :fault="bench.at('stock')"
      ><el-input :id="id" v-model="bench.form.stock" inputmode="decimal" :aria-describedby="described"
    /></FieldRow>
    <FieldRow v-slot="{ id, described }" label="Wanted (%)" :fault="bench.at('wanted', 'strength')"
      ><el-input :id="id" v-model="bench.form.strength" inputmode="decimal" :aria-describedby="described"
    /></FieldRow>
  </div>
  <div v-else-if="bench.form.mode === 'convert'" class="pair">
    <FieldRow v-slot="{ id, described }" label="Amount" :fault="bench.at('amount')"
      ><el-input :id="id" v-model="bench.form.amount" inputmode="decimal" :aria-describedby="described"
    /></FieldRow>
    <FieldRow v-slot="{ id }" label="Unit">
      <el-select :id="id" v-model="bench.form.unit" aria-label="Unit"
        ><el-option v-for="unit in bench.units.data.value ?? []" :key="unit.key" :value="unit.key" :label="unit.name"
      /></el-select>
    </FieldRow>
    <FieldRow v-slot="{ id, described }" label="A powder's g per ml" help="Weigh a level spoon; baking soda about 0.9." :fault="bench.at('grams_per_ml')"
      ><el-input :id="id" v-model="bench.form.density" inputmode="decimal" :aria-describedby="described"
    /></FieldRow>
  </div>
  <template v-else>
    <div class="pair">
      <FieldRow v-slot="{ id, described }" label="First, one part in" help="A brew from its stuff, or a stock." :fault="bench.at('parts')"
        ><el-input :id="id" v-model="bench.form.parts" inputmode="decimal" :aria-describedby="described"
      /></FieldRow>
      <FieldRow v-slot="{ id, described }" label="Then, one part in" help="Empty: one step only."
        ><el-input :id="id" v-model="bench.form.second" inputmode="decimal" :aria-describedby="described"
      /></FieldRow>
    </div>
    <el-checkbox v-model="bench.form.altogether">Parts counted altogether (1 in 40, not 1 and 40 of water)</el-checkbox>
  </template>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(120px, 1fr));
  gap: var(--space-3);
}
</style>
