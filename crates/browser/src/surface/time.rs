//! The sheet's time: held for a stroke, let go, or left to itself.

use saltmarsh_core::medium::{Turn, turn_in_place};
use saltmarsh_core::sheet::Changed;
use saltmarsh_core::stroke::Engine;
use saltmarsh_core::tool::Tool;
use wasm_bindgen::prelude::*;

use super::{Surface, pixels_of};
use crate::refuse;

#[wasm_bindgen]
impl Surface {
    /// Has the sheet's time wait for the stroke that was begun: of what is due, only what is let go goes.
    #[wasm_bindgen(js_name = holdTime)]
    pub fn hold_time(&mut self) {
        if let Some(engine) = self.engine.as_mut() {
            engine.hold_time(&self.sheet);
        }
    }

    /// Steps of time that are due in the stroke and wait.
    #[wasm_bindgen(getter, js_name = timeWaits)]
    pub fn time_waits(&self) -> u32 {
        self.engine.as_ref().map_or(0, |engine| engine.time_waits() as u32)
    }

    /// Lets so many of the steps go that wait; gives what changed, as [`Surface::work`] does.
    #[wasm_bindgen(js_name = letGo)]
    pub fn let_go(&mut self, steps: u32) -> Vec<u32> {
        let Some(engine) = self.engine.as_mut() else { return Vec::new() };
        let changed = engine.let_go(u64::from(steps), &mut self.sheet);
        pixels_of(&changed, &self.sheet, self.view.looks_around(self.lit))
    }

    /// When time went that was held, for [`Surface::time_as`]; nothing where every step goes when it is due.
    #[wasm_bindgen(js_name = timeWent)]
    pub fn time_went(&self) -> Option<Vec<u32>> {
        self.engine.as_ref().and_then(Engine::time_went)
    }

    /// Lets the sheet's time go in the stroke that was begun as it went when it was drawn.
    #[wasm_bindgen(js_name = timeAs)]
    pub fn time_as(&mut self, went: &[u32]) {
        if let Some(engine) = self.engine.as_mut() {
            engine.time_as(went);
        }
    }

    /// Something on the sheet would still move by itself.
    #[wasm_bindgen(getter)]
    pub fn busy(&self) -> bool {
        self.sheet.busy()
    }

    /// Lets so many steps of time go over the sheet; gives what changed, as [`Surface::work`] does.
    pub fn advance(&mut self, steps: u32) -> Vec<u32> {
        self.settle_in();
        let changed = self.sheet.advance(u64::from(steps));
        pixels_of(&changed, &self.sheet, self.view.looks_around(self.lit))
    }

    /// Lets some steps of time go over the sheet; whether nothing on it moves any more.
    #[wasm_bindgen(js_name = restOn)]
    pub fn rest_on(&mut self) -> bool {
        self.settle_in();
        self.sheet.rest_on(u64::MAX, &mut Changed::default())
    }

    /// A sheet is left to rest for so many steps at the most.
    #[wasm_bindgen(getter, js_name = longestRest)]
    pub fn longest_rest(&self) -> u32 {
        saltmarsh_core::sheet::LONGEST_REST as u32
    }

    /// How long a step of time is, s.
    #[wasm_bindgen(getter, js_name = stepS)]
    pub fn step_s(&self) -> f64 {
        saltmarsh_core::sheet::STEP_S
    }

    /// Makes the `n`-th piece of what time over the tool's medium needs of that paper; false where there are not so many.
    #[wasm_bindgen(js_name = prepareTime)]
    pub fn prepare_time(&self, tool: &str, n: usize) -> std::result::Result<bool, JsError> {
        let tool = Tool::parse(tool).map_err(|e| refuse(&e))?;
        Ok(tool.medium.prepare(&self.sheet, n))
    }

    /// Makes a piece of what the next step of time needs of the paper; false where it has it all.
    #[wasm_bindgen(js_name = prepareStep)]
    pub fn prepare_step(&self) -> bool {
        self.sheet.prepare_step()
    }

    /// Lets all that is wet dry, or makes all that has dried wet again.
    pub fn turn(&mut self, dry: bool) {
        turn_in_place(if dry { Turn::Dry } else { Turn::Wet }, &mut self.sheet);
    }

    /// Lets so many minutes go by: what stays open no longer dries.
    pub fn wait(&mut self, minutes: f64) {
        turn_in_place(Turn::Wait(minutes), &mut self.sheet);
    }
}
