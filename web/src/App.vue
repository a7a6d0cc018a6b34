<script setup lang="ts">
import { onMounted, onUnmounted } from "vue";
import { RouterLink, RouterView, useRoute, useRouter } from "vue-router";
import HelpDialog from "./components/HelpDialog.vue";
import PlantTag from "./components/PlantTag.vue";
import UnsentNote from "./components/UnsentNote.vue";
import { askDoor, doorIsOpen } from "./composables/useDoor";
import { useKeys } from "./composables/useKeys";
import { themes, useTheme } from "./composables/useTheme";
import { useTitle } from "./composables/useTitle";
import { helpOpen } from "./help/help";
import { newerReady, takeNewer } from "./worker";

const router = useRouter();
const route = useRoute();
const theme = useTheme();
useTitle(() => (typeof route.meta["title"] === "string" ? route.meta["title"] : null));
onMounted(() => {
  void askDoor();
  window.addEventListener("focus", askDoor);
});
onUnmounted(() => window.removeEventListener("focus", askDoor));
const themeNames = { day: "Day", evening: "Evening", sun: "Full sun" } as const;

function nextTheme(): void {
  theme.value = themes[(themes.indexOf(theme.value) + 1) % themes.length] ?? "day";
}

useKeys([
  { key: "?", label: "Help: questions, words, keys", run: () => (helpOpen.value = true) },
  { key: "t", label: "Today", run: () => void router.push("/") },
  { key: "f", label: "Find out what it is", run: () => void router.push("/look") },
  { key: "m", label: "Mixing bench", run: () => void router.push("/mix") },
  { key: "j", label: "The garden's year and its journal", run: () => void router.push("/year") },
  { key: "y", label: "The yard: place, weather, tools", run: () => void router.push("/yard") },
  { key: "p", label: "Practise counting", run: () => void router.push("/practice") },
  { key: "n", label: "New trial", run: () => void router.push("/new") },
  { key: "l", label: "Next theme: day, evening, full sun", run: nextTheme },
]);
</script>

<template>
  <a class="skip" href="#main">Skip to the content</a>
  <header v-if="!route.meta['field']" class="band no-print">
    <RouterLink to="/" class="brand" aria-label="Orthocris, Today">
      <PlantTag letter="" :notches="2" :height="30" colour="var(--trap)" plain />
      <span>Orthocris</span>
    </RouterLink>
    <nav aria-label="Main">
      <RouterLink to="/">Today <span class="key" aria-hidden="true">t</span></RouterLink>
      <RouterLink to="/look">Find out <span class="key" aria-hidden="true">f</span></RouterLink>
      <RouterLink to="/new">New trial <span class="key" aria-hidden="true">n</span></RouterLink>
      <RouterLink to="/mix">Mix <span class="key" aria-hidden="true">m</span></RouterLink>
      <RouterLink to="/year">Year <span class="key" aria-hidden="true">j</span></RouterLink>
      <RouterLink to="/yard">Yard <span class="key" aria-hidden="true">y</span></RouterLink>
    </nav>
    <div class="tools">
      <button type="button" @click="nextTheme">
        <span class="visually-hidden">Theme: </span><span class="theme-sign" aria-hidden="true">◐</span><span class="theme-name">{{ themeNames[theme] }}</span>
      </button>
      <button type="button" aria-label="Help" @click="helpOpen = true">?</button>
    </div>
  </header>
  <p v-if="newerReady" class="newer no-print" role="status">
    A newer Orthocris is ready. <button type="button" class="as-text" @click="takeNewer">Take it up</button>
  </p>
  <p v-if="doorIsOpen" class="newer no-print">
    Open to other devices of the home network, by passcode. <RouterLink to="/yard">Look after the door</RouterLink>
  </p>
  <UnsentNote v-if="!route.meta['field']" />
  <main id="main" tabindex="-1">
    <!-- Two trials are two pages: what one of them shows never stays for the other. -->
    <RouterView v-slot="{ Component }"><component :is="Component" :key="`${String(route.matched[0]?.path)} ${String(route.params['id'] ?? '')}`" /></RouterView>
  </main>
  <HelpDialog />
</template>

<style scoped>
.skip {
  position: absolute;
  left: -999px;
}

.skip:focus {
  left: var(--space-3);
  top: var(--space-3);
  z-index: 10;
  padding: var(--space-3);
  background: var(--sheet);
}

.newer {
  max-width: none;
  padding: var(--space-1) var(--space-5);
  background: var(--trap-wash);
}

.band {
  display: flex;
  align-items: center;
  gap: var(--space-5);
  padding: 0 var(--space-5);
  min-height: 56px;
  background: var(--band);
  color: var(--on-band);
}

.band a,
.band button {
  color: var(--on-band);
  min-height: var(--touch);
  display: inline-flex;
  align-items: center;
  gap: 0.4em;
  text-decoration: none;
  font-size: var(--text-m);
}

.band a:focus-visible,
.band button:focus-visible {
  outline-color: var(--trap);
}

.brand {
  font-weight: 750;
  letter-spacing: 0.01em;
  gap: 0.7em;
}

nav {
  display: flex;
  gap: var(--space-5);
}

nav a {
  border-bottom: 3px solid transparent;
  border-top: 3px solid transparent;
}

nav a.router-link-exact-active {
  border-bottom-color: var(--trap);
}

.tools {
  display: flex;
  gap: var(--space-2);
  margin-left: auto;
}

.tools button {
  gap: 0.4em;
  min-width: var(--touch);
  justify-content: center;
  padding: 0 var(--space-3);
  border: 0;
  background: transparent;
  cursor: pointer;
}

main {
  max-width: 1180px;
  margin: 0 auto;
  padding: var(--space-5) var(--space-5) var(--space-7);
}

/* A wide screen is used: sheets stand side by side (see .broad). */
@media (width >= 1600px) {
  main {
    max-width: 1640px;
  }
}

main:focus {
  outline: none;
}

/* A laptop at 200% is as narrow as a tablet: the links stay, the keys beside them go. */
@media (width < 900px) {
  .band {
    flex-wrap: wrap;
    gap: 0 var(--space-4);
    padding: 0 var(--space-4);
  }

  nav {
    flex-wrap: wrap;
    gap: 0 var(--space-4);
  }

  .brand span,
  .band .key {
    display: none !important;
  }
}

/* All of it on one line of a phone; the way home is Today. */
@media (width < 640px) {
  .band {
    padding: 0 var(--space-2);
    gap: 0 var(--space-1);
  }

  .band a,
  .band button {
    font-size: var(--text-s);
  }

  .brand {
    display: none !important;
  }

  .tools {
    gap: 0;
  }

  .band .tools button {
    min-width: 40px;
    padding: 0;
  }

  .theme-name {
    position: absolute;
    clip-path: inset(50%);
  }

  nav {
    gap: var(--space-3);
  }

  main {
    padding: var(--space-4) var(--space-4) var(--space-7);
  }
}
</style>
