<script setup lang="ts">
import { computed } from "vue";
import { useMixing } from "../../composables/useMixing";
import { unitOf } from "../../units";
import FieldRow from "../FieldRow.vue";
import KeepRecipe from "./KeepRecipe.vue";
import SaidSentence from "./SaidSentence.vue";

/** A recipe in the gardener's own words, and another to compare it with. */
const bench = useMixing();
const asks = computed(() => bench.reading.data.value?.tokens.some((token) => token.kind === "open") ?? false);
</script>

<template>
  <FieldRow
    v-slot="{ id, described }"
    label="The recipe"
    :help="`Such as: a heaped ${unitOf('volume') === 'ml' ? 'dessert spoon of baking soda to a 5-litre can' : 'tablespoon of baking soda to a gallon'} and a dash of soap; 2% soap and 1% oil; soap 1:40; 3% peroxide thinned to 0.5%.`"
    :fault="asks ? null : bench.at('text', 'parts')">
    <el-input :id="id" v-model="bench.form.text" type="textarea" autosize maxlength="500" :aria-describedby="described" @keydown.enter.prevent="bench.make" />
  </FieldRow>
  <SaidSentence v-if="bench.reading.data.value" :text="bench.readText.value" :reading="bench.reading.data.value" @say="bench.say" />
  <el-select
    v-model="bench.form.shipped"
    aria-label="Start from a recipe of the list"
    placeholder="Start from a recipe of the list, or one of your own"
    @change="bench.takeShipped">
    <el-option v-for="recipe in bench.recipes.data.value ?? []" :key="recipe.key" :value="recipe.key" :label="recipe.name" />
  </el-select>
  <FieldRow v-slot="{ id, described }" label="Compare it with" help="Another recipe in any units; leave it empty for none.">
    <el-input :id="id" v-model="bench.form.other" maxlength="500" :aria-describedby="described" />
  </FieldRow>
  <KeepRecipe :recipe="bench.form.text" @kept="bench.recipes.load" />
  <el-checkbox v-model="bench.form.flame">A flame, stove or heater is near</el-checkbox>
</template>
