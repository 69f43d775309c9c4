//! The built front end: files whose names tell their content stay for ever, the page itself is asked for each time; what was packed
//! at build is sent as it is.

use std::path::{Path, PathBuf};

use actix_files::NamedFile;
use actix_web::http::StatusCode;
use actix_web::http::header::{
    AcceptEncoding, CacheControl, CacheDirective, ContentEncoding, Encoding, Header, Preference,
};
use actix_web::{HttpRequest, HttpResponse, web};

/// How long a file whose name tells its content may be kept, s: a year, the longest that is of use (RFC 9111 §5.2.2.1).
const FOR_EVER_S: u32 = 31_536_000;
/// Addresses of screens, which the page itself reads.
const SCREENS: [&str; 5] = ["/", "/rack", "/hand", "/grounds", "/gestures"];

/// How files are packed beside themselves, best first: the end of their name, and what it is called.
const PACKED: [(&str, ContentEncoding); 2] = [("br", ContentEncoding::Brotli), ("gz", ContentEncoding::Gzip)];

/// Serves a folder that holds an `index.html`.
pub fn configure(config: &mut web::ServiceConfig, folder: &Path) {
    let folder = folder.to_owned();
    for screen in SCREENS {
        let folder = folder.clone();
        let show = move |request: HttpRequest| page(folder.clone(), request, StatusCode::OK);
        config.service(web::resource(screen).route(web::get().to(show.clone())).route(web::head().to(show)));
    }
    let other = folder.clone();
    let send = move |request: HttpRequest| file(other.clone(), request);
    config
        .service(web::resource("/{path:.*}").route(web::get().to(send.clone())).route(web::head().to(send)));
}

/// The page, which is asked for each time: it names the files of the newest build.
async fn page(folder: PathBuf, request: HttpRequest, status: StatusCode) -> HttpResponse {
    match opened(&folder.join("index.html"), &request) {
        Ok(index) => {
            let mut answer = index.into_response(&request);
            if answer.status() == StatusCode::OK {
                *answer.status_mut() = status;
            }
            set_cache(&mut answer, vec![CacheDirective::NoCache]);
            answer
        }
        Err(_) => HttpResponse::NotFound().finish(),
    }
}

/// A file of the folder; the page for an address that is none, which tells that nothing lies there.
async fn file(folder: PathBuf, request: HttpRequest) -> HttpResponse {
    let path = request.match_info().query("path").to_owned();
    let plain =
        path.split('/').all(|part| !part.is_empty() && !part.starts_with('.') && !part.contains('\\'));
    let found = if plain { opened(&folder.join(&path), &request).ok() } else { None };
    let Some(found) = found else {
        // What a page asks for is not answered with a page.
        let asked_for_file = path.starts_with("assets/") || path.starts_with("api/");
        return if asked_for_file {
            HttpResponse::NotFound().finish()
        } else {
            page(folder, request, StatusCode::NOT_FOUND).await
        };
    };
    let mut answer = found.into_response(&request);
    let stays = path.starts_with("assets/");
    set_cache(
        &mut answer,
        if stays {
            vec![
                CacheDirective::Public,
                CacheDirective::MaxAge(FOR_EVER_S),
                CacheDirective::Extension("immutable".into(), None),
            ]
        } else {
            vec![CacheDirective::NoCache]
        },
    );
    answer
}

fn set_cache(answer: &mut HttpResponse, directives: Vec<CacheDirective>) {
    use actix_web::http::header::TryIntoHeaderPair;
    if let Ok((name, value)) = CacheControl(directives).try_into_pair() {
        answer.headers_mut().insert(name, value);
    }
}

/// A file as it is, or packed as whoever asks can read it.
fn opened(path: &Path, request: &HttpRequest) -> std::io::Result<NamedFile> {
    let plain = NamedFile::open(path)?;
    if !plain.metadata().is_file() {
        return Err(std::io::ErrorKind::NotFound.into());
    }
    let accepted = AcceptEncoding::parse(request).map(|a| a.ranked()).unwrap_or_default();
    for (end, encoding) in PACKED {
        if !accepted.contains(&Preference::Specific(Encoding::Known(encoding))) {
            continue;
        }
        let mut packed = path.as_os_str().to_owned();
        packed.push(".");
        packed.push(end);
        if let Ok(packed) = NamedFile::open(&packed) {
            let kind = plain.content_type().clone();
            let packed = packed.set_content_type(kind).set_content_encoding(encoding);
            return Ok(packed.disable_content_disposition());
        }
    }
    // The page's own files are shown, never saved: a packed one would be, by its name.
    Ok(plain.disable_content_disposition())
}

#[cfg(test)]
mod tests {
    use super::*;
    use actix_web::http::header;
    use actix_web::{App, test};

    /// A page that is there packed is shown as a page, however it is asked for: no browser takes it for a file to save.
    #[actix_web::test]
    async fn a_packed_page_is_a_page() {
        let folder = std::env::temp_dir().join(format!("saltmarsh-front-{}", std::process::id()));
        std::fs::create_dir_all(&folder).expect("a folder");
        for (name, text) in [("index.html", "<p>plain</p>"), ("index.html.br", "packed")] {
            std::fs::write(folder.join(name), text).expect("written");
        }
        let app = test::init_service(App::new().configure(|c| configure(c, &folder))).await;
        for (accepts, body) in [("identity", "<p>plain</p>"), ("gzip, br", "packed")] {
            let asked =
                test::TestRequest::get().uri("/rack").insert_header((header::ACCEPT_ENCODING, accepts));
            let answer = test::call_service(&app, asked.to_request()).await;
            assert_eq!(answer.status(), StatusCode::OK);
            assert_eq!(
                answer.headers().get(header::CONTENT_TYPE).expect("a type"),
                "text/html; charset=utf-8",
                "{accepts}"
            );
            assert!(!answer.headers().contains_key(header::CONTENT_DISPOSITION), "{accepts}");
            assert_eq!(test::read_body(answer).await, body, "{accepts}");
        }
        std::fs::remove_dir_all(&folder).expect("removed");
    }
}
