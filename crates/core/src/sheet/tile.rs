//! One tile: a block for each layout that was ever touched there. Copies share their blocks until one of them is changed.

use std::rc::Rc;

use super::layout::Layout;

/// The values of one layout in one tile.
#[derive(Debug, Clone)]
struct Block {
    layout: &'static Layout,
    values: Rc<[f32]>,
    version: u64,
}

impl Block {
    /// Adds some values of every pixel.
    fn sum_in_place(&self, which: &[usize], out: &mut [f32]) {
        if which.is_empty() {
            return;
        }
        if self.layout.planes {
            for value in which {
                let plane = &self.values[self.layout.place(0, *value)..];
                out.iter_mut().zip(plane).for_each(|(sum, v)| *sum += v);
            }
            return;
        }
        for (sum, pixel) in out.iter_mut().zip(self.values.chunks_exact(self.layout.values)) {
            which.iter().for_each(|i| *sum += pixel[*i]);
        }
    }
}

/// A tile of a sheet.
#[derive(Debug, Clone, Default)]
pub struct Tile {
    /// In the order of their layouts.
    blocks: Vec<Block>,
    /// What the next change of a block is known by.
    pub(super) version: u64,
}

impl Tile {
    /// The values of a layout, pixel by pixel and then those of the tile as a whole; nothing where it was never touched.
    pub fn block(&self, layout: &Layout) -> Option<&[f32]> {
        self.blocks.iter().find(|b| b.layout.is(layout)).map(|b| &*b.values)
    }

    /// When a layout last changed here: greater than for any change before, on any sheet's way; 0 where it was never touched.
    pub fn version(&self, layout: &Layout) -> u64 {
        self.blocks.iter().find(|b| b.layout.is(layout)).map_or(0, |b| b.version)
    }

    /// Makes a block of nought where there is none.
    pub fn make_in_place(&mut self, layout: &'static Layout) {
        if self.blocks.iter().any(|b| b.layout.is(layout)) {
            return;
        }
        let at = self.blocks.partition_point(|b| b.layout.order < layout.order);
        let values = Rc::from(vec![0.0; layout.len()]);
        self.blocks.insert(at, Block { layout, values, version: self.version });
    }

    /// The blocks of some layouts that are there, to be changed.
    pub fn blocks_in_place<const N: usize>(&mut self, layouts: [&Layout; N]) -> [Option<&mut [f32]>; N] {
        let mut out = [const { None }; N];
        for block in &mut self.blocks {
            if let Some(i) = layouts.iter().position(|l| block.layout.is(l)) {
                block.version = self.version;
                out[i] = Some(Rc::make_mut(&mut block.values));
            }
        }
        out
    }

    /// Every block whose layout is wanted, in order, to be changed.
    pub fn some_in_place(
        &mut self,
        wanted: impl Fn(&Layout) -> bool,
    ) -> impl Iterator<Item = (&'static Layout, &mut [f32])> {
        let version = self.version;
        self.blocks.iter_mut().filter(move |b| wanted(b.layout)).map(move |block| {
            block.version = version;
            (block.layout, Rc::make_mut(&mut block.values))
        })
    }

    /// The block of a layout, made if it is not there, to be changed.
    pub fn block_in_place(&mut self, layout: &'static Layout) -> &mut [f32] {
        self.make_in_place(layout);
        let [block] = self.blocks_in_place([layout]);
        block.expect("it was made")
    }

    /// Adds the height of everything here over the ground, µm, pixel by pixel.
    pub fn height_in_place(&self, um: &mut [f32]) {
        for block in &self.blocks {
            block.sum_in_place(block.layout.fresh, um);
            block.sum_in_place(block.layout.dried, um);
        }
    }

    /// When what has dried here last changed; 0 where nothing has.
    pub fn dried_version(&self) -> u64 {
        self.blocks.iter().filter(|b| !b.layout.dried.is_empty()).map(|b| b.version).max().unwrap_or(0)
    }

    /// Adds the height of what has dried here, µm, pixel by pixel.
    pub fn dried_in_place(&self, um: &mut [f32]) {
        self.blocks.iter().for_each(|b| b.sum_in_place(b.layout.dried, um));
    }

    /// Height of what has dried at a pixel `index`, µm.
    pub fn dried_um(&self, index: usize) -> f32 {
        let at = |b: &Block| b.layout.dried.iter().map(|v| b.values[b.layout.place(index, *v)]).sum::<f32>();
        self.blocks.iter().map(at).sum()
    }

    /// The values of a layout, to be read while others of the tile are changed.
    pub fn share(&self, layout: &Layout) -> Option<Rc<[f32]>> {
        self.blocks.iter().find(|b| b.layout.is(layout)).map(|b| b.values.clone())
    }

    /// Every layout here with its values, in order.
    pub fn blocks(&self) -> impl Iterator<Item = (&'static Layout, &[f32])> {
        self.blocks.iter().map(|b| (b.layout, &*b.values))
    }
}
