//! What the core promises, in one program: built once, and every test beside any other.

mod common;

mod advice;
mod any_tool;
mod brushes;
mod charcoal;
mod hand;
mod inks;
mod layers;
mod outlives;
mod papers;
mod parts;
mod paste;
mod reference;
mod resists;
mod rub;
mod sheets;
mod strokes;
mod techniques;
mod tips;
mod tools;
mod touch;
mod washes;
