//! The WebAssembly face of the core.
