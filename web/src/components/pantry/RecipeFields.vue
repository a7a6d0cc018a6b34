<script setup lang="ts">
import { useMixing } from "../../composables/useMixing";
import FieldRow from "../FieldRow.vue";

/** A recipe in the gardener's own words, and another to compare it with. */
const bench = useMixing();
</script>

<template>
  <FieldRow v-slot="{ id, described }" label="The recipe" help="Such as: a heaped dessert spoon of baking soda to a 5-litre can and a dash of soap; soap 1:40; 15 ml/L; 3% peroxide to 0.5%." :fault="bench.at('text', 'parts')">
    <el-input :id="id" v-model="bench.form.text" type="textarea" autosize maxlength="500" :aria-describedby="described" @keydown.enter.prevent="bench.make" />
  </FieldRow>
  <el-select v-model="bench.form.shipped" aria-label="Start from a shipped recipe" placeholder="Start from a shipped recipe" @change="bench.takeShipped">
    <el-option v-for="recipe in bench.recipes.data.value ?? []" :key="recipe.key" :value="recipe.key" :label="recipe.name" />
  </el-select>
  <FieldRow v-slot="{ id, described }" label="Compare it with" help="Another recipe in any units; leave it empty for none.">
    <el-input :id="id" v-model="bench.form.other" maxlength="500" :aria-describedby="described" />
  </FieldRow>
  <el-checkbox v-model="bench.form.flame">A flame, stove or heater is near</el-checkbox>
</template>
