const first = ["Ada", "Bram", "Cleo", "Dov", "Edda", "Finn", "Gwen", "Hal", "Ines", "Jory", "Kit", "Lowen", "Mabel", "Ned", "Orla", "Piet"];
const last = ["Ashdown", "Birch", "Carrow", "Dell", "Eskdale", "Fell", "Garth", "Holm", "Ings", "Keld"];

/** Made-up contacts of Larkfell in three lists. */
export const demoContacts = (count = 2_400) =>
  Array.from({ length: count }, (_, i) => {
    const name = { first: first[i % first.length], last: last[Math.floor(i / first.length) % last.length] };
    return {
      address: `${name.first}.${name.last}.${i + 1}@readers.example.org`.toLowerCase(),
      attributes: { "first-name": name.first, "last-name": name.last },
      tags: i % 3 === 0 ? ["member"] : [],
      lists: ["Everyone", ...(i % 3 === 0 ? ["Members"] : []), ...(i < 2_000 ? ["Shop customers"] : [])],
    };
  });
