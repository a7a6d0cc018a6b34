<script setup lang="ts">
import { useMixing } from "../../composables/useMixing";
import FieldRow from "../FieldRow.vue";
import { volume } from "../../mixing";
import { toolWords, unitOf } from "../../units";

/** For how much it is mixed, and what it is measured with. */
const bench = useMixing();
const regions = { metric: "metric", us: "US", imperial: "imperial", australian: "Australian" } as const;
</script>

<template>
  <div class="pair">
    <FieldRow v-slot="{ id }" label="Spoons and gallons">
      <el-select :id="id" v-model="bench.form.region" aria-label="Spoons and gallons">
        <el-option v-for="(name, key) in regions" :key="key" :value="key" :label="name" />
      </el-select>
    </FieldRow>
    <FieldRow v-slot="{ id }" label="How much">
      <el-select :id="id" v-model="bench.form.by" aria-label="How much">
        <el-option value="volume" label="for a volume" /><el-option value="bottle" label="for a bottle of mine" /><el-option
          value="plants"
          label="for plants" />
      </el-select>
    </FieldRow>
  </div>
  <FieldRow v-if="bench.form.by === 'volume'" v-slot="{ id, described }" :label="`Ready mix (${unitOf('volume')})`" :fault="bench.at('volume')">
    <el-input :id="id" v-model="bench.form.volume" inputmode="decimal" :aria-describedby="described" />
  </FieldRow>
  <FieldRow v-else-if="bench.form.by === 'bottle'" v-slot="{ id }" label="Bottle or sprayer" help="A fifth stays empty, to shake.">
    <el-select :id="id" v-model="bench.form.bottle" aria-label="Bottle or sprayer"
      ><el-option v-for="ml in bench.bottles.value" :key="ml" :value="ml" :label="volume(ml)"
    /></el-select>
  </FieldRow>
  <div v-else class="pair">
    <FieldRow v-slot="{ id, described }" label="Plants" :fault="bench.at('plants')"
      ><el-input :id="id" v-model="bench.form.plants" inputmode="numeric" :aria-describedby="described"
    /></FieldRow>
    <FieldRow v-slot="{ id }" :label="`${unitOf('volume')} for each`" :fault="bench.at('each', 'ml_per_plant')"
      ><el-input :id="id" v-model="bench.form.each" inputmode="decimal"
    /></FieldRow>
    <FieldRow v-slot="{ id }" label="More, to be safe (%)" :fault="bench.at('margin')"
      ><el-input :id="id" v-model="bench.form.margin" inputmode="decimal"
    /></FieldRow>
  </div>
  <fieldset class="tools">
    <legend>What you measure with</legend>
    <el-checkbox-group v-model="bench.form.tools"
      ><el-checkbox v-for="tool in bench.tools.data.value ?? []" :key="tool.key" :value="tool.key">{{ toolWords(tool.name) }}</el-checkbox></el-checkbox-group
    >
  </fieldset>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(120px, 1fr));
  gap: var(--space-3);
}

.tools {
  margin: 0;
  padding: 0;
  border: 0;
}

.tools legend {
  font-weight: 650;
}

.tools .el-checkbox {
  margin-right: var(--space-4);
}
</style>
