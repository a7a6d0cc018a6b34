<script setup lang="ts">
import { ref } from "vue";
import { asFault, client, take, type Fault } from "../../api/client";
import { formName, once } from "../../api/once";
import FaultNote from "../FaultNote.vue";

/** Keeps the recipe on the bench in the gardener's own list, under a name. */
const { recipe } = defineProps<{ recipe: string }>();
const emit = defineEmits<{ kept: [] }>();
const asking = ref(false);
const name = ref("");
const said = ref("");
const fault = ref<Fault | null>(null);
let form = formName();

async function keep(): Promise<void> {
  const body = { name: name.value.trim(), recipe: recipe.trim() };
  fault.value = null;
  try {
    const made = await take(client.POST("/api/own-remedies", { params: { header: once(form, body) }, body }));
    said.value = `${made.name} is in your list.`;
    form = formName();
    asking.value = false;
    name.value = "";
    emit("kept");
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}
</script>

<template>
  <div class="row">
    <template v-if="asking">
      <label class="row">Its name <el-input v-model="name" maxlength="80" style="width: 14rem" @keydown.enter.prevent="keep" /></label>
      <el-button @click="keep">Keep it</el-button>
    </template>
    <el-button v-else :disabled="!recipe.trim()" @click="asking = true">Keep it in my list</el-button>
    <span v-if="said && !asking" class="soft" role="status">{{ said }}</span>
    <FaultNote :fault="fault" />
  </div>
</template>
