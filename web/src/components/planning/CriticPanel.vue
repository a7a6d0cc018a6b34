<script setup lang="ts">
import { ref, watch } from "vue";
import { asFault, client, take, type Fault, type Schemas } from "../../api/client";
import { formName, ifStill, once } from "../../api/once";
import { useTrial } from "../../composables/useTrial";
import FaultNote from "../FaultNote.vue";
import FieldRow from "../FieldRow.vue";
import TermText from "../TermText.vue";
import { inUnits } from "../../units";

const emit = defineEmits<{ found: [number: number] }>();
const { trial, change, load: reload } = useTrial();
const review = ref<Schemas["CritiqueOut"] | null>(null);
const fault = ref<Fault | null>(null);
const overruling = ref<Schemas["FindingOut"] | null>(null);
const reason = ref("");
let wish = formName();
let newest = 0;

async function load(): Promise<void> {
  const mine = ++newest;
  try {
    const found = await take(client.GET("/api/trials/{trial_id}/critique", { params: { path: { trial_id: trial.value?.id ?? 0 } } }));
    if (mine === newest) review.value = found;
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}
watch(trial, load, { immediate: true });
watch(review, (now) => emit("found", now?.findings.length ?? 0));

async function mend(code: string): Promise<void> {
  fault.value = await change(() =>
    take(
      client.POST("/api/trials/{trial_id}/critique/{code}/mend", {
        params: { path: { trial_id: trial.value?.id ?? 0, code }, header: ifStill(trial.value?.question_revision) },
      }),
    ),
  );
  if (fault.value?.code === "changed_elsewhere") await reload();
}

async function takeBack(): Promise<void> {
  fault.value = await change(() => take(client.POST("/api/trials/{trial_id}/critique/take-back", { params: { path: { trial_id: trial.value?.id ?? 0 } } })));
}

async function overrule(): Promise<void> {
  const body = { reason: reason.value };
  try {
    review.value = await take(
      client.POST("/api/trials/{trial_id}/critique/{code}/overrule", {
        params: { path: { trial_id: trial.value?.id ?? 0, code: overruling.value?.code ?? "" }, header: once(wish, [overruling.value?.code, body]) },
        body,
      }),
    );
    overruling.value = null;
    wish = formName();
    reason.value = "";
    fault.value = null;
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}
</script>

<template>
  <section v-if="review" class="sheet stack" aria-labelledby="second-eyes">
    <h2 id="second-eyes">A second pair of eyes</h2>
    <p>{{ review.promise }}</p>
    <p v-if="review.mended" class="row mended" role="status">
      <span>Done: {{ review.mended.label.charAt(0).toLowerCase() + review.mended.label.slice(1) }}.</span>
      <el-button @click="takeBack">Take it back</el-button>
    </p>
    <p v-if="!review.findings.length" class="soft">Nothing in this plan would spoil the answer.</p>
    <ul v-else>
      <li v-for="finding in review.findings" :key="finding.code">
        <strong>{{ finding.title }}</strong>
        <TermText :text="inUnits(finding.harm)" />
        <dl v-if="finding.changes.length" class="changes small">
          <template v-for="change_ in finding.changes" :key="change_.what">
            <dt>{{ change_.what }}</dt>
            <dd>
              <del>{{ change_.before }}</del> <span aria-hidden="true">→</span> <ins>{{ change_.after }}</ins>
            </dd>
          </template>
        </dl>
        <span class="row">
          <el-button v-if="finding.mend" @click="mend(finding.code)">{{ inUnits(finding.mend) }}</el-button>
          <button type="button" class="plain" @click="overruling = finding">It does not matter here</button>
        </span>
      </li>
    </ul>
    <FaultNote :fault="overruling ? null : fault" />
    <details v-if="review.overruled.length">
      <summary>Overruled ({{ review.overruled.length }}), to be shown with the verdict</summary>
      <ul class="small">
        <li v-for="o in review.overruled" :key="o.code">
          {{ o.finding }} <em>{{ o.reason }}</em>
        </li>
      </ul>
    </details>
    <el-dialog :model-value="overruling !== null" :title="overruling?.title" width="min(480px, 92vw)" append-to-body @close="overruling = null">
      <div class="stack">
        <p>{{ overruling?.harm }}</p>
        <FieldRow v-slot="{ id }" label="Why it does not matter here" help="It stays on the record and stands beside the verdict." :fault="fault">
          <el-input :id="id" v-model="reason" maxlength="500" @keydown.enter="overrule" />
        </FieldRow>
      </div>
      <template #footer>
        <el-button @click="overruling = null">Go back</el-button>
        <el-button type="primary" @click="overrule">Overrule it</el-button>
      </template>
    </el-dialog>
  </section>
</template>

<style scoped>
ul {
  display: grid;
  gap: var(--space-2);
  margin: 0;
  padding: 0;
  list-style: none;
}

li {
  display: grid;
  gap: var(--space-1);
  padding: var(--space-3) var(--space-4);
  border-left: 5px solid var(--warn);
  background: var(--warn-wash);
}

.mended {
  padding: var(--space-2) var(--space-4);
  border-left: 5px solid var(--good);
  background: var(--paper);
}

.changes {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 2px var(--space-3);
  margin: 0;
}

.changes dt {
  font-weight: 650;
}

.changes dd {
  margin: 0;
}

.changes ins {
  font-weight: 650;
  text-decoration: none;
}

@media (width < 640px) {
  .changes {
    grid-template-columns: 1fr;
  }
}

.small li {
  border-left-color: var(--line);
  background: none;
}

.plain,
summary {
  min-height: 44px;
  padding: 0 var(--space-2);
  border: 0;
  background: none;
  color: var(--ink);
  font-size: var(--text-m);
  text-decoration: underline;
  cursor: pointer;
}
</style>
