declare module '@/generated/wasm_exec.js'
