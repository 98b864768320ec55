//! Prints what a library that we did not write finds in an archive: a line for each sample of each
//! scalar property, `object TAB schema TAB property TAB sample TAB numbers`, and of each row of a cloud
//! of points.
use ogawa_rs::*;

const TRUTHS: [&str; 2] = [".inherits", "isNotConstantIdentity"];

fn numbers(p: &PodArray) -> Option<Vec<f64>> {
    Some(match p {
        PodArray::U8(v) => v.iter().map(|x| f64::from(*x)).collect(),
        PodArray::F32(v) => v.iter().map(|x| f64::from(*x)).collect(),
        PodArray::F64(v) => v.clone(),
        _ => return None,
    })
}

fn property(
    object: &ObjectReader,
    path: &str,
    p: &PropertyReader,
    a: &Archive,
    r: &mut dyn ArchiveReader,
) {
    match p {
        PropertyReader::Compound(c) => {
            let path = format!("{path}/{}", c.name());
            for i in 0..c.sub_property_count() {
                let inner = c.load_sub_property(i, r, a).expect("a property");
                property(object, &path, &inner, a, r);
            }
        }
        // The library does not read truth values.
        PropertyReader::Scalar(s) if TRUTHS.contains(&s.name()) => {}
        PropertyReader::Scalar(s) => {
            for n in 0..s.sample_count() {
                let Ok(sample) = s.load_sample(n, r) else {
                    continue;
                };
                if let Some(v) = numbers(&sample) {
                    let schema = object.header.meta_data.tokens.get("schema");
                    let words: Vec<String> = v.iter().map(|x| format!("{x:?}")).collect();
                    println!(
                        "{}\t{}\t{path}/{}\t{n}\t{}",
                        object.header.full_name,
                        schema.map_or("", |s| s.as_str()),
                        s.name(),
                        words.join(" ")
                    );
                }
            }
        }
        // Of clouds of points alone; meshes are large.
        PropertyReader::Array(s) => {
            let schema = object.header.meta_data.tokens.get("schema");
            if !schema.map_or(false, |s| s.contains("Points")) {
                return;
            }
            let words: Vec<String> = match s.load_sample(0, r).expect("a row") {
                PodArray::String(v) => v,
                PodArray::U64(v) => v.iter().map(|x| x.to_string()).collect(),
                other => numbers(&other)
                    .expect("numbers")
                    .iter()
                    .map(|x| format!("{x:?}"))
                    .collect(),
            };
            println!(
                "{}\tcloud\t{path}/{}\t0\t{}",
                object.header.full_name,
                s.name(),
                words.join(" ")
            );
        }
    }
}

fn walk(object: &ObjectReader, a: &Archive, r: &mut dyn ArchiveReader) {
    if let Some(p) = object.properties() {
        for i in 0..p.sub_property_count() {
            let inner = p.load_sub_property(i, r, a).expect("a property");
            property(object, "", &inner, a, r);
        }
    }
    for i in 0..object.child_count() {
        let child = object
            .load_child(i, r, &a.indexed_meta_data, &a.time_samplings)
            .expect("a child");
        walk(&child, a, r);
    }
}

fn main() {
    let path = std::env::args().nth(1).expect("the archive's path");
    let file = std::fs::File::open(path).expect("a file");
    let mut r = MemMappedReader::new(file).expect("a mapped file");
    let a = Archive::new(&mut r).expect("an archive");
    let top = a.load_root_object(&mut r).expect("the top object");
    walk(&top, &a, &mut r);
}
