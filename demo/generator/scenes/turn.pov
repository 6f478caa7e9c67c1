// Shot 4, "Turn": a studio close-up. The suitcase turns on its wheels; soft boxes run over the glossy shell; the focus is
// pulled from a flask in the foreground to the suitcase.
#declare Glossy = 1;
#include "common.inc"
#declare T = Frame / 24;
#macro Ease(U) (min(max(U, 0), 1) * min(max(U, 0), 1) * (3 - 2 * min(max(U, 0), 1))) #end
#declare Angle = -34 + 46 * Ease((T + 0.25) / 2.6);
#declare Focus = 0.86 + 0.60 * Ease((T - 0.35) / 0.9);
#declare Eye = <0.02 + 0.02 * T, 0.66 + 0.004 * sin(T * 2), -1.22>;
#declare Tgt = <0.03 + 0.004 * T, 0.50, 0.3>;
#macro SurfacePlace(P) (vrotate(P, <0, Angle, 0>) + <0.14, 0, 0.36>) #end
FilmCamera(Eye, Tgt, 36, Focus, 0.0050)
#declare Ls = seed(53 + LightJit);
#if (Matte = 0)
sky_sphere { pigment { rgb <0.05, 0.05, 0.052> } }
light_source { <-1.9 + 0.7 * (rand(Ls) - 0.5), 1.75 + 0.9 * (rand(Ls) - 0.5), -0.9 + 0.7 * (rand(Ls) - 0.5)> rgb <1.0, 0.97, 0.93> * 0.95 }
light_source { <1.8 + 0.3 * (rand(Ls) - 0.5), 1.5 + 1.1 * (rand(Ls) - 0.5), 0.1 + 0.3 * (rand(Ls) - 0.5)> rgb <0.86, 0.93, 1.0> * 0.5 }
light_source { <0.3 + 0.6 * (rand(Ls) - 0.5), 2.7, 0.8 + 0.6 * (rand(Ls) - 0.5)> rgb <1.0, 0.98, 0.95> * 0.55 }
// what the paper throws back, without shadow: cheaper here than gathering it
light_source { <-1.5, 0.2, -3> rgb <1.0, 0.98, 0.95> * 0.17 shadowless }
light_source { <2.5, 1.6, -3> rgb <0.95, 0.97, 1.0> * 0.13 shadowless }
// the soft boxes as the shell mirrors them; lamps of their own stand in for their light
#declare T_Lit = texture { pigment { rgb 1 } finish { ambient 0 diffuse 0 emission 2.6 } }
box { <-0.45, -0.75, -0.01>, <0.45, 0.75, 0.01> texture { T_Lit } no_image no_shadow rotate y * -62 translate <-2.0, 1.35, -0.95> }
box { <-0.12, -0.85, -0.01>, <0.12, 0.85, 0.01> texture { T_Lit } no_image no_shadow rotate y * 82 translate <1.9, 1.1, 0.1> }
box { <-0.6, -0.01, -0.5>, <0.6, 0.01, 0.5> texture { T_Lit } no_image no_shadow translate <0.3, 2.75, 0.6> }
#end
// paper backdrop with a curved foot; a painted wooden floor board in front
#declare T_PaperRoll = texture { pigment { bozo color_map { [0 rgb <0.235, 0.225, 0.212>] [1 rgb <0.26, 0.25, 0.236>] } scale 0.8 } finish { ambient 0 diffuse 0.9 } }
union {
  plane { y, 0 }
  box { <-6, 0, 2.4>, <6, 6, 2.6> }
  difference { box { <-6, 0, 1.6>, <6, 0.8, 2.5> } cylinder { <-7, 0.8, 1.6>, <7, 0.8, 1.6>, 0.8 } }
  Surface(T_PaperRoll, 0)
}
#declare T_Block = texture {
  pigment { wood turbulence 0.07 color_map { [0 rgb <0.40, 0.26, 0.14>] [0.6 rgb <0.33, 0.205, 0.105>] [1 rgb <0.43, 0.29, 0.16>] } rotate y * 87 scale <0.6, 0.02, 0.02> }
  finish { ambient 0 diffuse 0.85 specular 0.1 roughness 0.04 }
}
object { Round_Box_Union(<-0.15, 0, -0.12>, <0.15, 0.445, 0.12>, 0.006) Surface(T_Block, 0) rotate y * 12 translate <-0.215, 0, -0.40> }
#declare T_Flask = texture { pigment { rgb <0.47, 0.46, 0.44> } finish { ambient 0 diffuse 0.35 specular 0.6 roughness 0.015 metallic reflection { 0.4 metallic } } }
union {
  cylinder { <0, 0, 0>, <0, 0.145, 0>, 0.036 }
  cone { <0, 0.145, 0>, 0.036, <0, 0.168, 0>, 0.024 }
  Surface(T_Flask, 0)
  translate <-0.165, 0.445, -0.42>
}
cylinder { <-0.165, 0.613, -0.42>, <-0.165, 0.643, -0.42>, 0.026 Surface(T_Black, 0) }
// a folded canvas strap beside it
#declare T_Canvas = texture { pigment { rgb <0.36, 0.30, 0.20> } normal { average normal_map { [1 gradient x 0.6 sine_wave scale 0.004] [1 gradient z 0.6 sine_wave scale 0.004] } } finish { ambient 0 diffuse 0.9 } }
union {
  object { Round_Box_Union(<-0.07, 0, -0.028>, <0.07, 0.012, 0.028>, 0.005) }
  object { Round_Box_Union(<-0.066, 0.012, -0.027>, <0.068, 0.023, 0.027>, 0.005) rotate y * 4 }
  object { Round_Box_Union(<-0.07, 0.023, -0.028>, <0.064, 0.034, 0.028>, 0.005) rotate y * -3 }
  Surface(T_Canvas, 0)
  rotate y * -24 translate <-0.268, 0.445, -0.45>
}
object { Suitcase rotate y * Angle translate <0.14, 0, 0.36> }
