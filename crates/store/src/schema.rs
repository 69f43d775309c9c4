//! Table definitions, as `diesel print-schema` gives them for the migrations.

diesel::table! {
    painters (id) {
        id -> Uuid,
        name -> Text,
        created_at -> Timestamptz,
        password_hash -> Nullable<Text>,
        owner -> Bool,
    }
}

diesel::table! {
    invitations (id) {
        id -> Uuid,
        code_hash -> Bytea,
        made_by -> Uuid,
        made_at -> Timestamptz,
        expires_at -> Timestamptz,
    }
}

diesel::table! {
    sessions (token_hash) {
        token_hash -> Bytea,
        painter_id -> Uuid,
        created_at -> Timestamptz,
        expires_at -> Timestamptz,
    }
}

diesel::table! {
    tools (id) {
        id -> Uuid,
        owner_id -> Uuid,
        name -> Text,
        created_at -> Timestamptz,
        taken_away_at -> Nullable<Timestamptz>,
        last_draft -> Int4,
        newest -> Int4,
        newest_hash -> Text,
        newest_kept_at -> Timestamptz,
    }
}

diesel::table! {
    tool_versions (tool_id, number) {
        tool_id -> Uuid,
        owner_id -> Uuid,
        number -> Int4,
        document -> Jsonb,
        content_hash -> Text,
        kept_at -> Timestamptz,
        note -> Text,
    }
}

diesel::table! {
    drafts (tool_id) {
        tool_id -> Uuid,
        owner_id -> Uuid,
        document -> Json,
        version -> Int4,
        based_on -> Int4,
        saved_at -> Timestamptz,
    }
}

diesel::table! {
    gestures (id) {
        id -> Uuid,
        owner_id -> Uuid,
        name -> Text,
        note -> Text,
        inkml -> Text,
        content_hash -> Text,
        place -> Int4,
        created_at -> Timestamptz,
        on_proof -> Bool,
        tags -> Array<Text>,
        stylus -> Nullable<Jsonb>,
        version -> Int4,
    }
}

diesel::table! {
    grounds (id) {
        id -> Uuid,
        owner_id -> Uuid,
        name -> Text,
        note -> Text,
        recipe -> Jsonb,
        version -> Int4,
    }
}

diesel::table! {
    images (id) {
        id -> Uuid,
        owner_id -> Uuid,
        hash -> Text,
        name -> Text,
        tags -> Array<Text>,
        width -> Int4,
        height -> Int4,
        png -> Bytea,
        created_at -> Timestamptz,
        version -> Int4,
    }
}

diesel::table! {
    pigments (id) {
        id -> Uuid,
        owner_id -> Uuid,
        code -> Text,
        name -> Text,
        absorption -> Array<Float8>,
        scattering -> Array<Float8>,
        source -> Text,
    }
}

diesel::table! {
    styluses (id) {
        id -> Uuid,
        owner_id -> Uuid,
        name -> Text,
        device -> Text,
        document -> Jsonb,
        version -> Int4,
        active -> Bool,
        created_at -> Timestamptz,
    }
}

diesel::table! {
    curves (id) {
        id -> Uuid,
        owner_id -> Uuid,
        name -> Text,
        points -> Jsonb,
        created_at -> Timestamptz,
    }
}

diesel::table! {
    image_uses (owner_id, hash) {
        owner_id -> Uuid,
        hash -> Text,
        tool_id -> Nullable<Uuid>,
        number -> Nullable<Int4>,
        draft_of -> Nullable<Uuid>,
        ground_id -> Nullable<Uuid>,
    }
}

diesel::table! {
    wrong_tries (who) {
        who -> Text,
        wrong -> Int4,
        last -> Timestamptz,
    }
}

diesel::joinable!(tool_versions -> tools (tool_id));
diesel::joinable!(drafts -> tools (tool_id));
diesel::allow_tables_to_appear_in_same_query!(
    painters,
    sessions,
    tools,
    tool_versions,
    drafts,
    gestures,
    grounds,
    image_uses
);
