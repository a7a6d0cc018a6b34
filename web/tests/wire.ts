// The program's answers, played from a test. To be imported before anything that imports the
// client: it takes the page's fetch when it is made.
export const wire: { answer: (request: Request) => Promise<Response> } = {
  answer: () => Promise.reject(new Error("no answer")),
};

globalThis.fetch = ((request: Request) => wire.answer(request)) as typeof fetch;
