//! Media: how a contact moves material between tip and sheet.

pub mod dry;
pub mod dust;
pub mod entry;
pub mod face;
pub mod plane;
pub mod press;
pub mod rub;
pub mod sheer;
