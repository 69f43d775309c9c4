//! The page's TypeScript types, written from the declarations of the core.

use ts_rs::{Config, TS};

use super::figures::GroundFigures;
use super::{
    ActionDeclared, AmountShown, BalanceShown, Declarations, Explained, MediumDeclared, PigmentDeclared,
    Samples, SurfaceDeclared, TintDeclared, TraceShown,
};
use crate::chain::signal::{SignalInfo, Source};
use crate::chain::{Action, Kind, Parameter, Quality, Signal, Signals, Station, Value};
use crate::ground::recipe::{Number, Over, Recipe, Surface};
use crate::ground::texture::Texture;
use crate::hand::generate::Movement;
use crate::hand::observed::{Observed, Warning};
use crate::hand::propose::Proposal;
use crate::hand::way::Way;
use crate::hand::{Calibration, DeviceProfile, Hand, profile};
use crate::medium::{Care, Column, Held, Nature, Reading, TipShape, Under};
use crate::paint::swatch::Swatches;
use crate::relief::view::{Section, Seen, View};
use crate::said::{Part, Said};
use crate::sheet::Surroundings;
use crate::stroke::DabTrace;
use crate::stroke::advice::{Advice, Exercised};
use crate::stroke::compare::Difference;
use crate::stroke::reason::{Line, Reason};
use crate::technique::{Role, Step, Technique};
use crate::tool::Tool;
use crate::tool::relevance::Relevance;
use crate::tool::turned::Turned;
use crate::touch::levels::Levels;
use crate::touch::{Combine, Factor, Response};

/// One module of every type that passes between core and page.
pub fn module() -> String {
    let config = Config::new().with_large_int("number");
    let mut out =
        String::from("/** Written by `xtask types` from the declarations of the core: not by hand. */\n");
    macro_rules! declare {
        ($($type:ty,)+) => {
            $(out.push_str(&format!("\nexport {}\n", <$type as TS>::decl(&config)));)+
        };
    }
    declare!(
        Station,
        Action,
        Quality,
        Signal,
        SignalInfo,
        Source,
        Signals,
        Value,
        Kind,
        Parameter,
        Combine,
        Response,
        Factor,
        Levels,
        Calibration,
        DeviceProfile,
        profile::Field,
        Hand,
        Observed,
        Warning,
        Proposal,
        Way,
        Movement,
        Surface,
        Number,
        Over,
        Recipe,
        Texture,
        Column,
        Reading,
        AmountShown,
        BalanceShown,
        Under,
        Nature,
        DabTrace,
        Part,
        Said,
        Line,
        Reason,
        Difference,
        Exercised,
        Advice,
        Relevance,
        Tool,
        Technique,
        Role,
        Step,
        ActionDeclared,
        MediumDeclared,
        SurfaceDeclared,
        TintDeclared,
        PigmentDeclared,
        Swatches,
        Seen,
        View,
        Section,
        Care,
        Held,
        TipShape,
        Surroundings,
        Turned,
        Samples,
        Declarations,
        GroundFigures,
        TraceShown<'static>,
        Explained<'static>,
    );
    out
}
