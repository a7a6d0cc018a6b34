<script setup lang="ts">
import { onMounted, ref } from "vue";
import { client, take, type Schemas } from "../../api/client";
import { useKeeping } from "../../composables/useKeeping";
import { momentName } from "../../words";
import FaultNote from "../FaultNote.vue";
import FieldRow from "../FieldRow.vue";

/** Lets other devices of the home network in: address and code, passcode, who came, how to trust it. */
const door = ref<Schemas["DoorOut"] | null>(null);
const told = ref("");
const own = ref("");
const said = ref("");
const { fault, keep, at } = useKeeping((words) => (said.value = words));

function read(found: Schemas["DoorOut"]): void {
  door.value = found;
  if (found.passcode) told.value = found.passcode;
}

onMounted(() => keep("", async () => read(await take(client.GET("/api/door")))));

function turn(open: boolean): Promise<void> {
  return keep(open ? "Other devices can come in." : "The door is shut; nobody was sent away for good.", async () => read(await take(client.PUT("/api/door", { body: { open } }))));
}

function renew(passcode: string | null): Promise<void> {
  return keep("The passcode is new: every device must give it.", async () => {
    read(await take(client.POST("/api/door/passcode", { body: { passcode } })));
    own.value = "";
  });
}

function end(session: number): Promise<void> {
  return keep("That device must give the passcode again.", async () => read(await take(client.DELETE("/api/door/sessions/{session}", { params: { path: { session } } }))));
}
</script>

<template>
  <section v-if="door?.possible" class="sheet stack">
    <h2>Phones and other devices</h2>
    <p class="soft">Count and spray with a phone in the garden: it comes in over your home network, with a passcode, and goes on when the signal is gone.</p>
    <FaultNote :fault="fault && fault.field !== 'passcode' ? fault : null" />
    <p v-if="said" role="status" class="said">{{ said }}</p>
    <div class="row"><el-button :type="door.open ? 'default' : 'primary'" @click="turn(!door.open)">{{ door.open ? "Shut the door" : "Let other devices in" }}</el-button></div>

    <template v-if="door.open">
      <div class="way">
        <img :src="'/api/door/code.svg'" :alt="`Code that leads to ${door.address}`" width="168" height="168" />
        <div class="stack">
          <p>A phone in the same network opens<br /><strong class="address">{{ door.address }}</strong></p>
          <p v-if="told">Passcode, shown this once:<br /><strong class="code">{{ told }}</strong></p>
          <p v-if="door.others.length" class="small soft">Also {{ door.others.join(", ") }}.</p>
        </div>
      </div>
      <details>
        <summary>Let the phone trust this machine</summary>
        <ol class="small">
          <li>The first time the phone warns that it does not know the certificate. It is this machine's own. Go on once, and give the passcode.</li>
          <li>To end the warning, and to have the pages open without a signal: on the phone open <strong>{{ door.address }}/api/door/authority</strong> and install the file as a certificate authority (Android: Settings, Security, Install a certificate, CA certificate. iPhone: Settings, Profile downloaded; then General, About, Certificate trust settings).</li>
          <li>Compare its fingerprint before you trust it:<br /><code>{{ door.fingerprint }}</code></li>
          <li>Whoever has the key of this authority could pretend to be any site to that phone. The key stays in the data folder on this machine, readable by its owner alone. Take the certificate off the phone when you no longer need it.</li>
        </ol>
      </details>
    </template>

    <form v-if="door.has_passcode" class="row" novalidate @submit.prevent="renew(own)">
      <FieldRow v-slot="{ id }" label="A passcode of your own" help="At least 8 letters or digits." :fault="at('passcode')"><el-input :id="id" v-model="own" autocomplete="off" maxlength="64" /></FieldRow>
      <el-button native-type="submit" :disabled="!own.trim()">Use it</el-button>
      <el-button @click="renew(null)">Make a new one</el-button>
    </form>

    <template v-if="door.sessions.length">
      <h3>Who was let in</h3>
      <ul class="bare">
        <li v-for="session in door.sessions" :key="session.id">
          <span>{{ session.device }} <span class="small soft">since {{ momentName(session.made_at) }}, last seen {{ momentName(session.seen_at) }}</span></span>
          <el-button @click="end(session.id)">Send it out</el-button>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.way {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-5);
  align-items: center;
}

.address {
  font-size: var(--text-l);
  overflow-wrap: anywhere;
}

.code {
  font-size: var(--text-2xl);
  letter-spacing: 0.06em;
}

.said {
  color: var(--good);
  font-weight: 650;
}

form {
  align-items: end;
}

code {
  overflow-wrap: anywhere;
}

ol {
  display: grid;
  gap: var(--space-2);
  padding-left: 1.4em;
}


li {
  overflow-wrap: anywhere;
}

ul li {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: center;
  gap: var(--space-2);
}
</style>
