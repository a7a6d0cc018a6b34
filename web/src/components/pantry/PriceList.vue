<script setup lang="ts">
import { onMounted, ref } from "vue";
import { client, takeNoted } from "../../api/client";
import { ifStill } from "../../api/once";
import { useKeeping } from "../../composables/useKeeping";
import { need } from "../../entered";
import FaultNote from "../FaultNote.vue";

const { currency } = defineProps<{ currency: string }>();
const emit = defineEmits<{ kept: [words: string] }>();
const { fault, keep, at } = useKeeping((words) => emit("kept", words));
const prices = ref<{ name: string; pack: string; price: string }[]>([]);
let revision = "";
const note = (read: string): void => void (revision = read);

function load(): Promise<void> {
  return keep("", async () => {
    const known = await takeNoted(client.GET("/api/prices"), note);
    prices.value = known.map((p) => ({ name: p.name, pack: String(p.pack), price: String(p.price) }));
  });
}
onMounted(load);

function savePrices(): Promise<void> {
  return keep("The prices are kept.", async () => {
    const body = prices.value.filter((p) => p.name.trim() || p.price.trim()).map((p) => ({ name: p.name, pack: p.pack.trim(), price: need(p.price, "price") }));
    const known = await takeNoted(client.PUT("/api/prices", { body, params: { header: ifStill(revision) } }), note);
    prices.value = known.map((p) => ({ name: p.name, pack: String(p.pack), price: String(p.price) }));
  });
}
</script>

<template>
  <form class="sheet stack" novalidate @submit.prevent="savePrices">
    <h2>Prices</h2>
    <p class="small soft">
      A price is for every ingredient whose name holds its name: "oil" is for sunflower oil too, "yellow card" for a trap of yellow cards. Write a pack as it is
      sold (500 ml, 32 fl oz, 2 lb, 10 pieces); it is kept in ml, g or pieces.
    </p>
    <div v-for="(price, k) in prices" :key="k" class="price">
      <el-input v-model="price.name" aria-label="Ingredient" placeholder="soap" maxlength="60" />
      <el-input v-model="price.pack" aria-label="Pack: 500 ml, 2 lb, 10 pieces" placeholder="500 ml, 2 lb, 10 pieces" />
      <el-input v-model="price.price" :aria-label="`Price in ${currency}`" :placeholder="currency" inputmode="decimal" />
      <el-button :aria-label="`Leave out ${price.name}`" @click="prices.splice(k, 1)">Leave out</el-button>
    </div>
    <FaultNote :fault="fault?.field ? null : fault"
      ><el-button v-if="fault?.code === 'changed_elsewhere'" @click="load">Show what is there now</el-button></FaultNote
    >
    <p v-if="at('price', 'name')" class="wrong" role="alert">{{ fault?.message }}. {{ fault?.fix }}</p>
    <div class="row">
      <el-button @click="prices.push({ name: '', pack: '', price: '' })">One more</el-button
      ><el-button type="primary" native-type="submit">Keep the prices</el-button>
    </div>
  </form>
</template>

<style scoped>
.price {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2);
}

.price > .el-input {
  flex: 1 1 7rem;
}

.wrong {
  color: var(--bad);
  font-weight: 650;
}
</style>
