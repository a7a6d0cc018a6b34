<script setup lang="ts">
import { onMounted, ref } from "vue";
import { asFault, client, take, type Schemas } from "../../api/client";
import { doorIsOpen } from "../../composables/useDoor";
import { useKeeping } from "../../composables/useKeeping";
import { momentName } from "../../words";
import FaultNote from "../FaultNote.vue";
import FieldRow from "../FieldRow.vue";

/** Lets other devices of the home network in: address and code, passcode, who came, how to trust it. */
const door = ref<Schemas["DoorOut"] | null>(null);
const guest = ref(false); // this is such a device
const told = ref("");
const own = ref("");
const said = ref("");
const { fault, keep, at } = useKeeping((words) => (said.value = words));

function read(found: Schemas["DoorOut"]): void {
  door.value = found;
  doorIsOpen.value = found.open;
  if (found.passcode) told.value = found.passcode;
}

onMounted(() =>
  keep("", async () => {
    try {
      read(await take(client.GET("/api/door")));
    } catch (thrown) {
      guest.value = asFault(thrown).code === "only_here";
      if (!guest.value) throw thrown;
    }
  }),
);

function turn(open: boolean, kept: boolean, words: string): Promise<void> {
  return keep(words, async () => read(await take(client.PUT("/api/door", { body: { open, kept } }))));
}

async function leave(): Promise<void> {
  await keep("", async () => {
    await take(client.POST("/api/door/leave"));
    window.location.assign("/");
  });
}

function renew(passcode: string | null): Promise<void> {
  return keep("The passcode is new: every device must give it.", async () => {
    read(await take(client.POST("/api/door/passcode", { body: { passcode } })));
    own.value = "";
  });
}

function end(session: number): Promise<void> {
  return keep("That device must give the passcode again.", async () => {
    await take(client.DELETE("/api/door/sessions/{session}", { params: { path: { session } } }));
    read(await take(client.GET("/api/door")));
  });
}
</script>

<template>
  <section v-if="door?.possible" class="sheet stack">
    <h2>Phones and other devices</h2>
    <p class="soft">Count and spray with a phone in the garden: it comes in over your home network, with a passcode, and goes on when the signal is gone.</p>
    <FaultNote :fault="fault && fault.field !== 'passcode' ? fault : null" />
    <p v-if="said" role="status" class="said">{{ said }}</p>
    <div class="row">
      <el-button v-if="door.open" @click="turn(false, false, 'The door is shut; nobody was sent away for good.')">Shut the door</el-button>
      <el-button v-else type="primary" @click="turn(true, false, 'Other devices can come in until Orthocris ends.')">Let other devices in</el-button>
      <el-checkbox
        v-if="door.open"
        :model-value="door.kept"
        @change="turn(true, !door.kept, door.kept ? 'The door stays shut at the next start.' : 'The door is opened at each start.')"
        >Open it at each start</el-checkbox
      >
    </div>

    <template v-if="door.open">
      <div class="way">
        <img :src="'/api/door/code.svg'" :alt="`Code that leads to ${door.address}`" width="168" height="168" />
        <div class="stack">
          <p>
            A phone in the same network opens<br /><strong class="address">{{ door.address }}</strong>
          </p>
          <p v-if="told">
            Passcode, shown this once:<br /><strong class="code">{{ told }}</strong>
          </p>
          <p v-if="door.others.length" class="small soft">Also {{ door.others.join(", ") }}.</p>
        </div>
      </div>
      <details>
        <summary>Let the phone trust this machine</summary>
        <ol class="small">
          <li>The first time the phone warns that it does not know the certificate. It is this machine's own. Go on once, and give the passcode.</li>
          <li>
            To end the warning, and to have the pages open without a signal: on the phone open the Yard, take the certificate there, and install it as a
            certificate authority (Android: Settings, Security, Install a certificate, CA certificate. iPhone: Settings, Profile downloaded; then General,
            About, Certificate trust settings).
          </li>
          <li>
            Compare its fingerprint before you trust it:<br /><code>{{ door.fingerprint }}</code>
          </li>
          <li>
            It vouches for this machine's name and for addresses at home, for no site of the world, and for ten years. Its key stays in the data folder here,
            readable by its owner alone. Take it off the phone when you no longer need it.
          </li>
        </ol>
      </details>
    </template>

    <form v-if="door.has_passcode" class="row" novalidate @submit.prevent="renew(own)">
      <FieldRow v-slot="{ id }" label="A passcode of your own" help="At least 8 letters or digits." :fault="at('passcode')"
        ><el-input :id="id" v-model="own" autocomplete="off" maxlength="64"
      /></FieldRow>
      <el-button native-type="submit" :disabled="!own.trim()">Use it</el-button>
      <el-button @click="renew(null)">Make a new one</el-button>
    </form>

    <template v-if="door.sessions.length">
      <h3>Who was let in</h3>
      <ul class="bare">
        <li v-for="session in door.sessions" :key="session.id">
          <span
            >{{ session.device }} <span class="small soft">since {{ momentName(session.made_at) }}, last seen {{ momentName(session.seen_at) }}</span></span
          >
          <el-button @click="end(session.id)">Remove this device</el-button>
        </li>
      </ul>
    </template>
  </section>
  <section v-else-if="guest" class="sheet stack">
    <h2>This device</h2>
    <FaultNote :fault="fault" />
    <p>
      It came in over the home network. Does it warn of the certificate, or forget the pages without a signal?
      <a href="/api/door/authority" download>Take the certificate of this home</a>, install it in the device's settings as a certificate authority, and compare
      its fingerprint with the one that the Yard shows on the machine itself.
    </p>
    <div class="row"><el-button @click="leave">Remove this device</el-button></div>
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
