import { ref, watch } from "vue";

export const themes = ["day", "evening", "sun"] as const;
export type Theme = (typeof themes)[number];

const stored = document.documentElement.dataset["theme"] as Theme | undefined;
const theme = ref<Theme>(stored && themes.includes(stored) ? stored : "day");

watch(theme, (now) => {
  document.documentElement.dataset["theme"] = now;
  document.documentElement.classList.toggle("dark", now === "evening");
  try {
    localStorage.setItem("orthocris.theme", now);
  } catch {
    // Storage may be blocked; the theme then lasts until the page is closed.
  }
});

/** The theme in force, kept on this device. */
export function useTheme(): typeof theme {
  return theme;
}
