//! What has been made of a ground, as bytes to be stored beyond the program and given back to it: the same program makes the
//! same ground, so nothing that was stored is made again.
//!
//! Layout, little-endian: [`MARK`], FNV-1a of the recipe's key and all that follows (u64), the fits of the surface and of what lies
//! over it (a gain and three times mean and scale, f32 each), the height steps (f32), then a piece after the other: its place (two
//! i64), its heights and its grain (i16 each, row by row). Only the program that wrote it reads it again.

use super::make::{Fit, Norm};
use super::pieces::{PIECE, Piece};
use crate::error::{FieldError, Result};

const MARK: &[u8; 8] = b"ground-2";
/// Numbers of a [`Fit`].
const OF_FIT: usize = 7;
const HEAD: usize = MARK.len() + 8 + 4 * (2 * OF_FIT + 1);
const PIXELS: usize = (PIECE * PIECE) as usize;
const PIECE_BYTES: usize = 16 + 4 * PIXELS;

/// What a ground need not work out anew.
pub(super) struct Stored {
    /// Of the surface, and of what lies over it (1 where nothing does).
    pub fits: [Fit; 2],
    pub height_steps: f32,
    pub pieces: Vec<((i64, i64), Piece)>,
}

/// FNV-1a over words of 8 bytes (the last one filled up with noughts): tells a torn or spoilt store from a whole one.
fn digest(key: &str, bytes: &[u8]) -> u64 {
    key.as_bytes().chunks(8).chain(bytes.chunks(8)).fold(0xcbf2_9ce4_8422_2325, |sum: u64, chunk| {
        let mut word = [0; 8];
        word[..chunk.len()].copy_from_slice(chunk);
        (sum ^ u64::from_le_bytes(word)).wrapping_mul(0x0000_0100_0000_01b3)
    })
}

impl Stored {
    /// `key`: the recipe's.
    pub fn write(&self, key: &str) -> Vec<u8> {
        let mut out = Vec::with_capacity(HEAD + self.pieces.len() * PIECE_BYTES);
        out.extend_from_slice(MARK);
        out.extend_from_slice(&[0; 8]);
        let of =
            |fit: &Fit| [fit.gain].into_iter().chain(fit.norms.into_iter().flat_map(|n| [n.mean, n.scale]));
        for number in self.fits.iter().flat_map(of).chain([self.height_steps]) {
            out.extend_from_slice(&number.to_le_bytes());
        }
        for ((x, y), piece) in &self.pieces {
            out.extend_from_slice(&x.to_le_bytes());
            out.extend_from_slice(&y.to_le_bytes());
            for value in piece.0.iter().chain(&piece.1) {
                out.extend_from_slice(&value.to_le_bytes());
            }
        }
        let sum = digest(key, &out[MARK.len() + 8..]);
        out[MARK.len()..MARK.len() + 8].copy_from_slice(&sum.to_le_bytes());
        out
    }

    /// # Errors
    /// Names `stored` where the bytes are not whole, not of this layout, or of another recipe.
    pub fn read(key: &str, bytes: &[u8]) -> Result<Self> {
        let refused = || FieldError::new("stored", "is not what this program stored of a ground");
        let sound = bytes.len() >= HEAD
            && bytes.starts_with(MARK)
            && (bytes.len() - HEAD).is_multiple_of(PIECE_BYTES)
            && bytes[MARK.len()..].first_chunk().map(|sum| u64::from_le_bytes(*sum))
                == Some(digest(key, &bytes[MARK.len() + 8..]));
        if !sound {
            return Err(refused());
        }
        let number = |n: usize| {
            let at = MARK.len() + 8 + 4 * n;
            f32::from_le_bytes(bytes[at..at + 4].try_into().expect("four bytes"))
        };
        let norm = |n: usize| Norm { mean: number(n), scale: number(n + 1) };
        let fit = |n: usize| Fit { gain: number(n), norms: [1, 3, 5].map(|k| norm(n + k)) };
        let place = |of: &[u8]| i64::from_le_bytes(of.try_into().expect("eight bytes"));
        let values =
            |of: &[u8]| of.chunks_exact(2).map(|v| i16::from_le_bytes([v[0], v[1]])).collect::<Vec<i16>>();
        let pieces = bytes[HEAD..].chunks_exact(PIECE_BYTES).map(|of| {
            let (heights, grain) = of[16..].split_at(2 * PIXELS);
            ((place(&of[..8]), place(&of[8..16])), Piece::new((values(heights), values(grain))))
        });
        Ok(Self { fits: [fit(0), fit(OF_FIT)], height_steps: number(2 * OF_FIT), pieces: pieces.collect() })
    }
}
