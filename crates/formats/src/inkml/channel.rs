//! What a trace format says of each of its channels.

/// One channel of a trace format.
#[derive(Debug, Clone, PartialEq)]
pub struct Channel {
    pub name: String,
    pub units: String,
    pub min: Option<f64>,
    pub max: Option<f64>,
    /// Value of an intermittent channel that was never reported.
    pub default: Option<f64>,
    pub intermittent: bool,
}

impl Channel {
    /// A channel of this name that says nothing else.
    pub(super) fn plain(name: &str) -> Self {
        Self {
            name: name.to_owned(),
            units: String::new(),
            min: None,
            max: None,
            default: None,
            intermittent: false,
        }
    }
}
