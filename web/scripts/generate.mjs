// Writes the page's types of the contract. A schema with "x-ts-type" is that type of circuit.gen.ts;
// what is binary is a Blob, as a browser has it.
import { writeFile } from "node:fs/promises";
import openapiTS, { astToString } from "openapi-typescript";
import ts from "typescript";

const reference = (name) => ts.factory.createTypeReferenceNode(name);
const named = new Set();

const ast = await openapiTS(new URL("../../api/openapi.yaml", import.meta.url), {
  transform(schema) {
    if (schema.format === "binary") return reference("Blob");
    const name = schema["x-ts-type"];
    if (!name) return undefined;
    named.add(name);
    return reference(name);
  },
});
const head = `// Written by web/scripts/generate.mjs from api/openapi.yaml; do not edit.\nimport type { ${[...named].join(", ")} } from "./circuit.gen";\n\n`;
await writeFile(new URL("../src/api/schema.gen.ts", import.meta.url), head + astToString(ast));
