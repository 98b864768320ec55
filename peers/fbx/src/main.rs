//! Prints where every node of a file is on every frame, and nothing else: node, frame, and the
//! twelve numbers of its node-to-world matrix, column after column.

fn main() {
    let args: Vec<String> = std::env::args().collect();
    let rate: f64 = args[2].parse().expect("a rate");
    let first: i64 = args[3].parse().expect("a first frame");
    let last: i64 = args[4].parse().expect("a last frame");
    let scene = ufbx::load_file(&args[1], ufbx::LoadOpts::default()).expect("a file that can be read");
    for frame in first..=last {
        let opts = ufbx::EvaluateOpts::default();
        let at = ufbx::evaluate_scene(&scene, &scene.anim, frame as f64 / rate, opts)
            .expect("a scene that can be evaluated");
        for node in &at.nodes {
            if node.is_root {
                continue;
            }
            let m = node.node_to_world;
            println!(
                "{}\t{}\t{:e}\t{:e}\t{:e}\t{:e}\t{:e}\t{:e}\t{:e}\t{:e}\t{:e}\t{:e}\t{:e}\t{:e}",
                node.element.name, frame, m.m00, m.m10, m.m20, m.m01, m.m11, m.m21, m.m02, m.m12,
                m.m22, m.m03, m.m13, m.m23
            );
        }
    }
}
