//! Which parameters act in a tool, and why the others do not.

use serde::Serialize;

use super::{Action, Quality, Tool, parameter::PARAMETERS};

/// Whether a parameter acts now.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct Relevance {
    pub id: &'static str,
    pub acts: bool,
    /// Why it does not, or what else decides; empty where there is nothing to say.
    pub reason: String,
}

/// One entry a parameter, in the order of the declarations.
pub fn relevance(tool: &Tool) -> Vec<Relevance> {
    PARAMETERS
        .iter()
        .map(|p| {
            let reason =
                p.quality.and_then(|q| driven(tool, q)).or_else(|| special(tool, p.id)).unwrap_or_default();
            Relevance { id: p.id, acts: reason.is_empty(), reason }
        })
        .collect()
}

/// A quality whose first response acts in full leaves nothing to the parameter.
fn driven(tool: &Tool, quality: Quality) -> Option<String> {
    if quality == Quality::Angle {
        return None;
    }
    let first = tool.responses.iter().find(|r| r.quality == quality && r.on)?;
    (first.amount >= 1.0).then(|| format!("{} gives it", first.signal.info().label))
}

fn special(tool: &Tool, id: &str) -> Option<String> {
    let number = |id: &str| tool.number(id);
    let has = |q: Quality| tool.responses.iter().any(|r| r.quality == q && r.on);
    let lays = tool.action == Action::Lay;
    let image = lays && tool.choice("ground.enters") != "contact";
    let film = image && tool.choice("load.film") != "none";
    let reason = match id {
        _ if id.starts_with("mix.") && lays => "a stick only lays",
        "load.stick" | "load.deposit_um_mm" | "load.bound" if !lays => "this tool brings no powder",
        "load.fill_um" | "load.grain" if !lays && tool.action != Action::Blend => "this tool lays nothing",
        "touch.build" | "touch.opacity" if !lays => "this tool lays no film",
        "mix.release_mm" if tool.action != Action::Blend => "what is picked up is not released",
        "mix.holds_mm3" if matches!(tool.action, Action::Cut | Action::Fix) => "nothing is picked up",
        "mix.pickup_held" if tool.action == Action::Fix => "nothing is picked up",
        "mix.wear_um_mm" if tool.action != Action::Cut => "only a cutting tool wears the tooth",
        "touch.force_gf"
        | "load.hardness_gf_mm2"
        | "load.give_um"
        | "load.grit_um"
        | "load.face_um"
        | "ground.tooth"
        | "ground.scale"
        | "ground.swap"
        | "ground.follow"
        | "ground.follow_mm"
            if tool.action == Action::Fix =>
        {
            "a spray needs no contact"
        }
        "tip.specks" | "tip.speck_size" | "tip.speck_spread" | "tip.speck_crowd"
            if tool.choice("tip.shape") != "speckled" =>
        {
            "the tip is not speckled"
        }
        _ if id.starts_with("tip.image") && tool.choice("tip.shape") != "image" => {
            "the tip's shape is no image"
        }
        _ if id.starts_with("tip.image_") && tool.image("tip.image").is_empty() => "there is no image yet",
        _ if id.starts_with("tip.grain_") && tool.image("tip.grain").is_empty() => "there is no grain image",
        "tip.mask_size" | "tip.mask_angle_deg" if tool.choice("tip.mask") == "none" => {
            "nothing masks the tip"
        }
        "load.dust" | "load.dust_mm" | "load.blunt" | "load.blunt_mm" | "load.sharpen" if !lays => {
            "this tool brings no powder"
        }
        "load.dust_mm" if number("load.dust") == 0.0 => "no dust falls",
        "load.blunt_mm" | "load.sharpen" if number("load.blunt") == 1.0 => "the point never blunts",
        "ground.enters" if !lays => "only a tool that lays can be textured",
        "ground.depth" | "ground.least" if !lays || tool.choice("ground.enters") == "contact" => {
            "the ground enters by contact"
        }
        "ground.least"
            if tool.choice("ground.enters") != "subtracted"
                && number("ground.least") < 1.0 - number("ground.depth")
                && !has(Quality::Depth)
                && !has(Quality::LeastDepth) =>
        {
            "the depth leaves more than that"
        }
        "load.give_um" | "load.grit_um" | "load.face_um" | "load.dust" | "load.dust_mm" | "ground.tooth"
            if lays && tool.choice("ground.enters") != "contact" =>
        {
            "the ground enters as an image"
        }
        "load.hardness_gf_mm2" | "touch.force_gf" if lays && tool.choice("ground.enters") == "multiplied" => {
            "the ground enters as an image, whatever the force"
        }
        "touch.steady_hz" | "touch.steady_speed" if !tool.switch("touch.steady") => "steadying is off",
        "tip.spacing" if tool.switch("tip.spacing_auto") => "spacing sets itself",
        "tip.angle_deg" | "tip.angle_from"
            if tool.choice("tip.shape") == "round"
                && tool.choice("tip.mask") == "none"
                && (tool.image("tip.grain").is_empty() || tool.choice("tip.grain_on") == "sheet")
                && number("tip.aspect") == 1.0
                && number("tip.side_mm") == 0.0
                && !has(Quality::Aspect)
                && !has(Quality::Side) =>
        {
            "the tip is round"
        }
        "tip.bite" if number("tip.side_mm") == 0.0 && !has(Quality::Side) => "no side lies down",
        "tip.bite" if tool.action == Action::Fix => "a spray needs no contact",
        "tip.bite" if lays && tool.choice("ground.enters") == "multiplied" => {
            "the ground enters as an image, whatever the force"
        }
        "load.film" if !lays => "this tool brings no powder",
        "load.film" if !image => "the ground enters by contact",
        "load.deposit_um_mm" | "load.fill_um" | "load.grain" | "load.bound" | "touch.build" if film => {
            "a film is no powder"
        }
        "tip.count"
            if film
                && number("tip.scatter_mm") == 0.0
                && number("tip.scatter_along_mm") == 0.0
                && tool.choice("tip.shape") != "speckled"
                && !has(Quality::Scatter)
                && !has(Quality::ScatterAlong) =>
        {
            "a film in one place is one film"
        }
        "ground.follow_mm" if number("ground.follow") == 0.0 => "nothing is followed",
        "ground.swap" | "ground.scale" | "ground.follow"
            if number("ground.tooth") == 0.0
                && !has(Quality::Tooth)
                && (!lays || tool.choice("ground.enters") == "contact") =>
        {
            "the tooth has no depth"
        }
        "load.grain" if lays && number("load.deposit_um_mm") == 0.0 => "nothing is laid",
        _ => return None,
    };
    Some(reason.to_owned())
}
