/** In the place of Expo Router's document head: this app writes none, its index.html has it. */
exports.Head = { Provider: ({ children }) => children };
