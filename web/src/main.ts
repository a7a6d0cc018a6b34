import "@fontsource-variable/atkinson-hyperlegible-next";
import "element-plus/theme-chalk/dark/css-vars.css";
import "./styles/tokens.css";
import "./styles/element.css";
import "./styles/base.css";
import { createApp } from "vue";
import App from "./App.vue";
import { router } from "./router";
import { loadUnits } from "./units";
import { openWithoutNetwork } from "./worker";

void loadUnits();
openWithoutNetwork();
createApp(App).use(router).mount("#app");
