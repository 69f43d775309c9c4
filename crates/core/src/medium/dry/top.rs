//! Which powder lies on top.

use super::blocks::{OWNER, TOP, TOP_COVER};

/// Powder on top of what lies there: what another stick left on top is covered and becomes part of what lies below.
#[inline(always)]
pub fn top_in_place(top: &mut [f32], number: f32, laid: f32, cover: f32) {
    if top[OWNER] != number {
        top.copy_from_slice(&[number, 0.0, 0.0]);
    }
    top[TOP] += laid;
    top[TOP_COVER] = top[TOP_COVER].max(cover);
}
