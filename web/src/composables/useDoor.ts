import { ref } from "vue";
import { client } from "../api/client";

/** Whether other devices of the home network can come in; false on such a device itself. */
export const doorIsOpen = ref(false);

/** Ask anew, as another page may have opened or shut it. */
export async function askDoor(): Promise<void> {
  try {
    doorIsOpen.value = (await client.GET("/api/door")).data?.open ?? false;
  } catch {
    // Without the program nobody comes in, and the page says so elsewhere.
  }
}
