//! Closed sets of named options: one declaration for documents, code and screens, so that no name can be read as another.

/// An enum whose variants documents name.
pub trait Choice: Copy + 'static {
    /// Name and label of every variant, in their order.
    const OPTIONS: &'static [(&'static str, &'static str)];
    /// Every variant.
    const ALL: &'static [Self];

    /// The variant that documents name so.
    fn named(name: &str) -> Option<Self> {
        Self::OPTIONS.iter().position(|o| o.0 == name).map(|i| Self::ALL[i])
    }
}

/// Declares an enum whose variants have a name in documents and a label on screens.
macro_rules! choices {
    ($(#[$meta:meta])* pub enum $name:ident { $($(#[$doc:meta])* $variant:ident = $id:literal, $label:literal;)+ }) => {
        $(#[$meta])*
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
        pub enum $name { $($(#[$doc])* $variant,)+ }

        impl $crate::chain::Choice for $name {
            const OPTIONS: &'static [(&'static str, &'static str)] = &[$(($id, $label),)+];
            const ALL: &'static [Self] = &[$(Self::$variant,)+];
        }
    };
}
pub(crate) use choices;
