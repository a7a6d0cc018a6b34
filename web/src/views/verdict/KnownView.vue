<script setup lang="ts">
import { computed, watch } from "vue";
import { RouterLink } from "vue-router";
import { client, take, type Schemas } from "../../api/client";
import { FLOOR } from "../../charts/efficacy";
import FaultNote from "../../components/FaultNote.vue";
import NeighbourPanel from "../../components/verdict/NeighbourPanel.vue";
import KnownRow from "../../components/verdict/KnownRow.vue";
import { useAnswer } from "../../composables/useAnswer";
import { inUnits } from "../../units";
import { plural } from "../../words";

/** What the gardener knows of a pest by now, from all trials whose verdict is on record. */
const props = defineProps<{ pest: string | null }>();
const pests = useAnswer(() => take(client.GET("/api/known")));
const known = useAnswer<Schemas["KnownOut"] | null>(async () => {
  await pests.load();
  const pest = props.pest ?? pests.data.value?.[0]?.pest;
  return pest ? take(client.GET("/api/known/{pest}", { params: { path: { pest } } })) : null;
});
watch(() => props.pest, known.load, { immediate: true });

/** Which leaves bear which mix: kinds down, mixes across. */
const borne = useAnswer(() => take(client.GET("/api/borne")));
void borne.load();
const mixes = computed(() => [...new Set((borne.data.value ?? []).map(mixOf))].sort());
const kinds = computed(() => [...new Set((borne.data.value ?? []).map((one) => one.kind))]);

function mixOf(one: Schemas["BorneOut"]): string {
  return one.strength ? `${one.remedy}, ${one.strength}` : one.remedy;
}

function told(kind: string, mix: string): string {
  const one = (borne.data.value ?? []).find((b) => b.kind === kind && mixOf(b) === mix);
  if (!one) return "";
  return [one.passed ? `borne${one.passed > 1 ? ` ${one.passed} times` : ""}` : "", one.marked ? `marked${one.marked > 1 ? ` ${one.marked} times` : ""}` : ""]
    .filter(Boolean)
    .join(", ");
}

/** The left end of all lines: the next doubling beyond the worst that a trial found. */
const floor = computed(() => {
  const worst = Math.max(1.5, ...(known.data.value?.remedies ?? []).flatMap((r) => r.trials.map((t) => 1 - t.efficacy)));
  return worst <= 1.5 ? FLOOR : 1 - Math.min(2 ** Math.ceil(Math.log2(worst * 1.2)), 16);
});
</script>

<template>
  <div class="stack broad">
    <div class="across">
      <h1>What you know by now</h1>
      <p class="soft">
        From your trials whose verdict was read, and those of other gardens. Strengths are kept apart, and the trials of a remedy are put together.
      </p>
    </div>
    <FaultNote :fault="known.fault.value ?? pests.fault.value" />
    <nav v-if="(pests.data.value?.length ?? 0) > 1" class="row" aria-label="Pests">
      <RouterLink
        v-for="one in pests.data.value"
        :key="one.pest"
        :to="`/known/${encodeURIComponent(one.pest)}`"
        :aria-current="one.pest === known.data.value?.pest ? 'page' : undefined"
        >{{ one.name }} ({{ plural(one.trials, "trial") }})</RouterLink
      >
    </nav>
    <section v-if="known.data.value?.trials" class="sheet stack across">
      <h2>{{ known.data.value.name }}</h2>
      <KnownRow v-for="remedy in known.data.value.remedies" :key="`${remedy.name} ${remedy.strength}`" :remedy="remedy" :floor="floor" />
      <p v-for="one in known.data.value.harmful" :key="`${one.name} ${one.strength}`" class="harmful">
        <strong>{{ one.name }}{{ one.strength ? `, ${inUnits(one.strength)}` : "" }}:</strong> {{ one.words }}
      </p>
      <p class="small soft">
        A tag is a trial and its line holds the truth in 95 of 100 such trials. The band is all trials together; the dotted line is where another trial of yours
        would likely lie. Harm that was seen in any trial stands last, whatever was removed.
      </p>
      <div class="row"><RouterLink :to="{ path: '/new', query: { pest: known.data.value.pest } }" class="go-on">Plan the next trial →</RouterLink></div>
    </section>
    <section v-else-if="known.data.value !== undefined && pests.data.value" class="sheet stack">
      <h2>Nothing yet</h2>
      <p>Once the verdict of a trial is read, what it found is kept here, and the next trial adds to it.</p>
      <div class="row"><RouterLink to="/new" class="go-on">Plan a trial →</RouterLink></div>
    </section>
    <NeighbourPanel @changed="known.load()" />
    <section v-if="kinds.length" class="sheet stack" aria-labelledby="borne">
      <h2 id="borne">Which leaves bear which mix</h2>
      <div class="wide-table" tabindex="0" role="region" aria-label="Kinds of leaf by mixes">
        <table>
          <thead>
            <tr>
              <th scope="col">Leaves</th>
              <th v-for="mix in mixes" :key="mix" scope="col">{{ inUnits(mix) }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="kind in kinds" :key="kind">
              <th scope="row">{{ kind }}</th>
              <td v-for="mix in mixes" :key="mix" :class="{ marked: told(kind, mix).includes('marked') }">{{ told(kind, mix) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p class="small soft">From every patch test here that is over. Leaves differ with age, thirst and heat: a few first, each time.</p>
    </section>
  </div>
</template>

<style scoped>
.marked {
  color: var(--bad);
  font-weight: 650;
}

.harmful {
  border-left: 5px solid var(--bad);
  padding-left: var(--space-3);
}

nav a {
  display: inline-flex;
  align-items: center;
  min-height: var(--touch);
}

[aria-current] {
  font-weight: 700;
  text-decoration: none;
}
</style>
