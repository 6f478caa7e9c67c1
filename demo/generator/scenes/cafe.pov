// Shot 2, "Café": inside, warm light from pendants and a window. The suitcase stands behind a bentwood chair;
// a teal cushion on the bench is the look-alike.
#include "common.inc"
Radiosity(120, 0.9)
#declare T = Frame / 24;
#declare Eye = <0.30 - 0.10 * T + 0.005 * sin(T * 3.1), 1.12 + 0.007 * sin(T * 2.3 + 0.4), -2.55 + 0.02 * sin(T * 1.3)>;
#declare Tgt = <-0.02 + 0.03 * T, 0.56 + 0.004 * sin(T * 3.9), 0.5>;
#macro SurfacePlace(P) (vrotate(P, <0, 14, 0>) + <-0.28, 0, 0.62>) #end
FilmCamera(Eye, Tgt, 42, 2.75, 0.010)

#declare Ls = seed(23 + LightJit);
#if (Matte = 0)
// cool daylight through a window on the left, small against the lamps
light_source { <-5.5 + 0.5 * (rand(Ls) - 0.5), 3.0 + 0.8 * (rand(Ls) - 0.5), -2.2 + 0.8 * (rand(Ls) - 0.5)> rgb <0.62, 0.74, 1.0> * 0.42 }
light_source { <-0.5 + 0.14 * (rand(Ls) - 0.5), 1.98, 0.15 + 0.14 * (rand(Ls) - 0.5)> rgb <1.0, 0.66, 0.34> * 1.0 fade_distance 1.3 fade_power 2 }
light_source { <1.25 + 0.14 * (rand(Ls) - 0.5), 1.98, 0.1 + 0.14 * (rand(Ls) - 0.5)> rgb <1.0, 0.66, 0.34> * 1.15 fade_distance 1.3 fade_power 2 }
light_source { <0.4 + 0.8 * (rand(Ls) - 0.5), 2.5, -3.2 + 0.5 * (rand(Ls) - 0.5)> rgb <1.0, 0.75, 0.48> * 0.35 }
sky_sphere { pigment { rgb <0.10, 0.095, 0.09> } }
#end

// floor: small hexagon-like chequer of worn tiles
#declare T_Tile = texture {
  pigment {
    checker
    pigment { granite color_map { [0 rgb <0.50, 0.455, 0.385>] [1 rgb <0.40, 0.36, 0.30>] } scale 0.4 }
    pigment { granite color_map { [0 rgb <0.075, 0.07, 0.065>] [1 rgb <0.12, 0.105, 0.09>] } scale 0.4 }
    scale 0.2 rotate y * 45
  }
  normal { granite 0.05 scale 0.2 }
  finish { ambient 0 diffuse 0.8 specular 0.25 roughness 0.015 reflection 0.035 }
}
plane { y, 0 Surface(T_Tile, 0) }
// walls: panelled dado below, plaster above
#declare T_Panel = texture {
  pigment { rgb <0.225, 0.155, 0.105> }
  normal { gradient x 0.35 ramp_wave slope_map { [0 <0, 0>] [0.02 <1, 0>] [0.96 <1, 0>] [1 <0, 0>] } scale 0.14 }
  finish { ambient 0 diffuse 0.85 specular 0.15 roughness 0.03 }
}
box { <-5, 0, 1.9>, <5, 0.98, 2.2> Surface(T_Panel, 0) }
#declare T_DadoRail = texture { pigment { rgb <0.19, 0.125, 0.08> } finish { ambient 0 diffuse 0.85 specular 0.25 roughness 0.02 } }
box { <-5, 0.97, 1.86>, <5, 1.02, 2.2> Surface(T_DadoRail, 0) }
#declare T_Plaster = texture {
  pigment { bozo turbulence 0.5 color_map { [0 rgb <0.56, 0.47, 0.34>] [1 rgb <0.49, 0.405, 0.285>] } scale 0.9 }
  normal { granite 0.08 scale 0.15 }
  finish { ambient 0 diffuse 0.88 }
}
box { <-5, 1.02, 1.9>, <5, 3.2, 2.2> Surface(T_Plaster, 0) }
box { <-5.2, 0, -5>, <-3.2, 0.9, 3> Surface(T_Plaster, 0) }
box { <3.1, 0, -5>, <3.4, 3.2, 3> Surface(T_Plaster, 0) }
box { <-5, 3.1, -5>, <5, 3.2, 3> Surface(T_Plaster, 0) }
// framed prints
#declare T_PrintFrame = texture { pigment { rgb <0.05, 0.04, 0.035> } finish { ambient 0 diffuse 0.8 specular 0.2 roughness 0.02 } }
#declare T_Paper = texture { pigment { rgb <0.70, 0.66, 0.57> } finish { ambient 0 diffuse 0.9 } }
#declare T_PrintA = texture { pigment { agate turbulence 0.4 color_map { [0 rgb <0.14, 0.12, 0.11>] [0.5 rgb <0.46, 0.33, 0.22>] [1 rgb <0.63, 0.57, 0.46>] } scale 0.25 } finish { ambient 0 diffuse 0.9 } }
#declare T_PrintB = texture { pigment { spiral1 3 color_map { [0 rgb <0.40, 0.16, 0.10>] [0.6 rgb <0.55, 0.42, 0.28>] [1 rgb <0.16, 0.14, 0.15>] } scale 0.3 } finish { ambient 0 diffuse 0.9 } }
#macro Print(X, Y, W, H, Tex)
  union {
    box { <X - W / 2, Y - H / 2, 1.87>, <X + W / 2, Y + H / 2, 1.9> Surface(T_PrintFrame, 0) }
    box { <X - W / 2 + 0.02, Y - H / 2 + 0.02, 1.865>, <X + W / 2 - 0.02, Y + H / 2 - 0.02, 1.88> Surface(T_Paper, 0) }
    box { <X - W / 2 + 0.07, Y - H / 2 + 0.08, 1.862>, <X + W / 2 - 0.07, Y + H / 2 - 0.07, 1.88> Surface(Tex, 0) }
  }
#end
Print(-0.98, 1.52, 0.46, 0.6, T_PrintA)
Print(-0.36, 1.60, 0.34, 0.44, T_PrintB)
Print(1.55, 1.55, 0.5, 0.64, T_PrintA)
// shelf with cups
#declare T_Shelf = texture { pigment { wood turbulence 0.05 color_map { [0 rgb <0.27, 0.155, 0.075>] [1 rgb <0.20, 0.11, 0.05>] } rotate y * 88 scale <0.5, 0.03, 0.03> } finish { ambient 0 diffuse 0.85 specular 0.1 roughness 0.03 } }
box { <0.22, 1.38, 1.66>, <1.12, 1.41, 1.9> Surface(T_Shelf, 0) }
#declare T_China = texture { pigment { rgb <0.70, 0.66, 0.58> } finish { ambient 0 diffuse 0.85 specular 0.5 roughness 0.008 reflection 0.03 } }
#declare T_Clay = texture { pigment { rgb <0.34, 0.165, 0.09> } finish { ambient 0 diffuse 0.85 specular 0.2 roughness 0.02 } }
#declare Cup = difference { cylinder { <0, 0, 0>, <0, 0.09, 0>, 0.04 } cylinder { <0, 0.006, 0>, <0, 0.1, 0>, 0.036 } }
#declare I = 0;
#while (I < 6)
  #if (mod(I, 3) = 1)
    object { Cup Surface(T_Clay, 0) translate <0.32 + I * 0.14, 1.41, 1.77> }
  #else
    object { Cup Surface(T_China, 0) translate <0.32 + I * 0.14, 1.41, 1.77> }
  #end
  #declare I = I + 1;
#end

// wall bench with cushions; the teal one is the look-alike
box { <-2.6, 0, 1.3>, <2.6, 0.42, 1.9> Surface(T_Panel, 0) }
#declare T_Seat = texture { pigment { rgb <0.16, 0.085, 0.05> } normal { bumps 0.15 scale 0.012 } finish { ambient 0 diffuse 0.85 specular 0.1 roughness 0.06 } }
object { Round_Box_Union(<-2.6, 0.41, 1.26>, <2.6, 0.49, 1.88>, 0.03) Surface(T_Seat, 0) }
#declare T_Cushion = texture {
  pigment { rgb <0.045, 0.215, 0.215> }
  normal { average normal_map { [1 gradient x 0.8 sine_wave scale 0.005] [1 gradient y 0.8 sine_wave scale 0.005] [1 bumps 0.6 scale 0.06] } }
  finish { ambient 0 diffuse 0.85 brilliance 0.9 }
}
#declare T_CushionB = texture {
  pigment { rgb <0.50, 0.40, 0.26> }
  normal { average normal_map { [1 gradient x 0.8 sine_wave scale 0.005] [1 bumps 0.6 scale 0.06] } }
  finish { ambient 0 diffuse 0.85 brilliance 0.9 }
}
#declare Pillow = superellipsoid { <0.75, 0.55> scale <0.21, 0.19, 0.075> }
object { Pillow Surface(T_Cushion, 0) rotate x * 16 rotate z * 7 translate <1.10, 0.68, 1.62> }
object { Pillow Surface(T_CushionB, 0) rotate x * 18 rotate z * -9 translate <-1.32, 0.67, 1.64> }

// round table
#declare T_Table = texture { pigment { wood turbulence 0.07 color_map { [0 rgb <0.33, 0.19, 0.09>] [0.6 rgb <0.26, 0.145, 0.065>] [1 rgb <0.36, 0.215, 0.105>] } rotate y * 86 scale <0.7, 0.04, 0.04> } finish { ambient 0 diffuse 0.85 specular 0.3 roughness 0.015 reflection 0.03 } }
union {
  cylinder { <0, 0.735, 0>, <0, 0.76, 0>, 0.37 Surface(T_Table, 0) }
  torus { 0.37, 0.0125 translate y * 0.7475 Surface(T_Table, 0) }
  cylinder { <0, 0, 0>, <0, 0.74, 0>, 0.03 Surface(T_PrintFrame, 0) }
  cone { <0, 0, 0>, 0.22, <0, 0.06, 0>, 0.04 Surface(T_PrintFrame, 0) }
  object { Cup Surface(T_China, 0) translate <0.02, 0.768, -0.1> }
  cylinder { <0.02, 0.76, -0.1>, <0.02, 0.768, -0.1>, 0.075 Surface(T_China, 0) }
  cylinder { <-0.17, 0.76, 0.08>, <-0.17, 0.90, 0.08>, 0.03 Surface(T_Clay, 0) }
  translate <0.88, 0, 0.62>
}
// pendant lamps (shades only; the light is above)
#declare T_Shade = texture { pigment { rgb <0.5, 0.33, 0.17> } finish { ambient 0 diffuse 0.6 emission 0.25 } }
#if (Matte = 0)
cone { <-0.5, 2.1, 0.15>, 0.16, <-0.5, 2.28, 0.15>, 0.06 open Surface(T_Shade, 0) }
cone { <1.25, 2.1, 0.1>, 0.16, <1.25, 2.28, 0.1>, 0.06 open Surface(T_Shade, 0) }
#end

// bentwood chair in front of the suitcase
#declare T_Bent = texture { pigment { rgb <0.115, 0.055, 0.028> } normal { bumps 0.05 scale <0.004, 0.05, 0.004> } finish { ambient 0 diffuse 0.85 specular 0.45 roughness 0.012 reflection 0.03 } }
#declare Chair = union {
  cylinder { <0, 0.44, 0>, <0, 0.465, 0>, 0.205 }
  torus { 0.205, 0.0145 translate y * 0.4525 }
  // legs
  cone { <-0.15, 0.44, -0.14>, 0.017, <-0.19, 0, -0.18>, 0.013 }
  cone { <0.15, 0.44, -0.14>, 0.017, <0.19, 0, -0.18>, 0.013 }
  torus { 0.155, 0.010 translate y * 0.24 }
  // back hoop: legs continue up into an arch
  #declare I = 0;
  sphere_sweep {
    cubic_spline 9,
    <-0.19, -0.1, 0.21>, 0.0145, <-0.18, 0, 0.20>, 0.0145, <-0.165, 0.45, 0.15>, 0.0145, <-0.17, 0.75, 0.19>, 0.0145,
    <0, 0.93, 0.225>, 0.0145, <0.17, 0.75, 0.19>, 0.0145, <0.165, 0.45, 0.15>, 0.0145, <0.18, 0, 0.20>, 0.0145, <0.19, -0.1, 0.21>, 0.0145
    tolerance 0.001
  }
  sphere_sweep {
    cubic_spline 7,
    <-0.1, 0.35, 0.16>, 0.0105, <-0.095, 0.46, 0.155>, 0.0105, <-0.10, 0.66, 0.18>, 0.0105,
    <0, 0.81, 0.205>, 0.0105, <0.10, 0.66, 0.18>, 0.0105, <0.095, 0.46, 0.155>, 0.0105, <0.1, 0.35, 0.16>, 0.0105
    tolerance 0.001
  }
  Surface(T_Bent, 0)
}
object { Chair rotate y * 200 translate <-0.02, 0, -0.08> }
object { Suitcase rotate y * 14 translate <-0.28, 0, 0.62> }
