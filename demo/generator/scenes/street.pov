// Shot 3, "Dusk street": blue hour, a lit shop front. The camera travels along the kerb past the scooter: a lamp post
// crosses in front of it and it leaves the picture on the left.
#include "common.inc"
#declare T_Board3 = texture { pigment { rgb <0.55, 0.53, 0.46> } finish { ambient 0 diffuse 0.8 } }
#include "scooter.inc"
Radiosity(100, 1.0)
#declare T = Frame / 24;
#declare Travel = T * 0.92 + 0.10 * T * T;
#declare Eye = <-0.75 + Travel + 0.005 * sin(T * 3.3), 1.18 + 0.007 * sin(T * 2.6 + 0.7), -3.25 + 0.012 * sin(T * 1.9)>;
#declare Tgt = <-0.45 + Travel * 1.06 + 0.004 * sin(T * 4.1), 0.66 + 0.004 * sin(T * 3.7), 0.35>;
#macro SurfacePlace(P) (vrotate(<P.x * 1.6 - 0.1, P.y * 0.9, -0.26>, <0, -9, 0>) + <0, 0, 0.30>) #end
FilmCamera(Eye, Tgt, 42, 3.45, 0.014)
#declare Ls = seed(37 + LightJit);
#if (Matte = 0)
sky_sphere { pigment { gradient y color_map { [0 rgb <0.50, 0.42, 0.44> * 0.62] [0.25 rgb <0.28, 0.34, 0.50> * 0.6] [1 rgb <0.10, 0.16, 0.33> * 0.6] } } }
// last light from the left, the street lamp overhead, the shop's window, a car far off
light_source { <-14 + 6 * (rand(Ls) - 0.5), 7 + 4 * (rand(Ls) - 0.5), -9> rgb <0.46, 0.52, 0.72> * 0.55 }
light_source { <0.95 + 0.35 * (rand(Ls) - 0.5), 3.5, -0.75 + 0.35 * (rand(Ls) - 0.5)> rgb <1.0, 0.69, 0.38> * 0.8 fade_distance 2.6 fade_power 2 }
light_source { <1.1 + 1.8 * (rand(Ls) - 0.5), 1.7 + 0.9 * (rand(Ls) - 0.5), 2.25> rgb <1.0, 0.74, 0.46> * 0.65 fade_distance 1.6 fade_power 2 }
#end
// road, kerb, pavement
#declare T_Road = texture {
  pigment { granite color_map { [0 rgb <0.065, 0.068, 0.075>] [0.7 rgb <0.095, 0.096, 0.10>] [1 rgb <0.14, 0.14, 0.14>] } scale 0.07 }
  normal { granite 0.25 scale 0.05 }
  finish { ambient 0 diffuse 0.85 specular 0.18 roughness 0.05 reflection { 0.0, 0.08 } }
}
plane { y, 0 Surface(T_Road, 0) }
#declare T_Kerb = texture { pigment { granite color_map { [0 rgb 0.24] [1 rgb <0.33, 0.325, 0.31>] } scale 0.2 } normal { granite 0.1 scale 0.05 } finish { ambient 0 diffuse 0.85 } }
#declare I = -6;
#while (I < 9)
  object { Round_Box_Union(<I * 0.92 + 0.004, -0.1, 0.86>, <I * 0.92 + 0.914, 0.12, 1.0>, 0.012) Surface(T_Kerb, 0) }
  #declare I = I + 1;
#end
#declare T_Flag = texture {
  pigment { brick pigment { rgb 0.13 } pigment { granite color_map { [0 rgb <0.27, 0.26, 0.245>] [1 rgb <0.35, 0.335, 0.31>] } scale 0.3 } brick_size <0.6, 3, 0.45> mortar 0.009 }
  normal { granite 0.08 scale 0.08 }
  finish { ambient 0 diffuse 0.85 specular 0.06 roughness 0.06 }
  translate <0.1, 1.5, 0>
}
box { <-12, -0.1, 1.0>, <14, 0.12, 2.5> Surface(T_Flag, 0) }
// house fronts: brick, a shop window with warm light in it, a door, a dark window
#declare T_Brick3 = texture {
  pigment { brick pigment { rgb <0.35, 0.33, 0.30> } pigment { bozo color_map { [0 rgb <0.20, 0.12, 0.09>] [0.5 rgb <0.27, 0.165, 0.125>] [1 rgb <0.33, 0.22, 0.17>] } scale <0.23, 0.08, 0.2> } brick_size <0.23, 0.078, 0.11> mortar 0.011 }
  normal { brick 0.5 brick_size <0.23, 0.078, 0.11> mortar 0.014 }
  finish { ambient 0 diffuse 0.85 }
}
difference {
  box { <-12, 0, 2.45>, <14, 6, 2.8> }
  box { <-0.25, 0.62, 2.3>, <2.45, 2.35, 2.9> }
  box { <-2.75, 1.0, 2.3>, <-1.65, 2.4, 2.9> }
  Surface(T_Brick3, 0)
}
#declare T_Sill = texture { pigment { granite color_map { [0 rgb 0.30] [1 rgb 0.40] } scale 0.3 } finish { ambient 0 diffuse 0.85 } }
box { <-0.33, 0.52, 2.38>, <2.53, 0.62, 2.8> Surface(T_Sill, 0) }
box { <-2.82, 0.92, 2.38>, <-1.58, 1.0, 2.8> Surface(T_Sill, 0) }
#declare T_ShopPaint = texture { pigment { rgb <0.055, 0.06, 0.07> } finish { ambient 0 diffuse 0.85 specular 0.25 roughness 0.02 } }
union {
  box { <-0.3, 2.3, 2.36>, <2.5, 2.72, 2.5> }
  box { <-0.29, 0.6, 2.4>, <-0.2, 2.4, 2.55> } box { <2.4, 0.6, 2.4>, <2.49, 2.4, 2.55> }
  box { <0.66, 0.6, 2.42>, <0.71, 2.35, 2.5> } box { <1.55, 0.6, 2.42>, <1.60, 2.35, 2.5> }
  Surface(T_ShopPaint, 0)
}
#declare T_Sign = texture { pigment { rgb <0.62, 0.55, 0.40> } finish { ambient 0 diffuse 0.85 } }
text { ttf "timrom.ttf" "Hollis & Daughter" 0.02, <0.02, 0, 0> scale 0.25 translate <0.2, 2.44, 2.345> Surface(T_Sign, 0) }
// inside the shop: a back wall, shelves with boxes
#declare T_Inside = texture { pigment { rgb <0.62, 0.50, 0.34> } finish { ambient 0 diffuse 0.8 emission 0.16 } }
box { <-0.6, 0, 3.9>, <2.8, 2.6, 4.0> Surface(T_Inside, 0) }
box { <-0.6, 0.4, 2.8>, <2.8, 0.5, 4.0> Surface(T_Sill, 0) }
#declare T_Shelf3 = texture { pigment { rgb <0.28, 0.17, 0.09> } finish { ambient 0 diffuse 0.8 emission 0.08 } }
#declare Rs = seed(5);
#declare I = 0;
#while (I < 3)
  box { <-0.4, 0.85 + I * 0.48, 3.55>, <2.6, 0.88 + I * 0.48, 3.88> Surface(T_Shelf3, 0) }
  #declare J = 0;
  #while (J < 13)
    #declare Tone = 0.2 + 0.5 * rand(Rs);
    #declare HH = 0.1 + 0.22 * rand(Rs);
    #declare T_Ware = texture { pigment { rgb <Tone, Tone * (0.75 + 0.15 * rand(Rs)), Tone * (0.45 + 0.3 * rand(Rs))> } finish { ambient 0 diffuse 0.8 emission 0.14 } }
    box { <-0.35 + J * 0.225, 0.88 + I * 0.48, 3.58>, <-0.35 + J * 0.225 + 0.1 + 0.09 * rand(Rs), 0.88 + I * 0.48 + HH, 3.8> Surface(T_Ware, 0) }
    #declare J = J + 1;
  #end
  #declare I = I + 1;
#end
// dark window with a sash
#declare T_Pane = texture { pigment { rgb <0.03, 0.035, 0.045> } finish { ambient 0 diffuse 0.5 specular 0.5 roughness 0.004 reflection 0.16 } }
box { <-2.75, 1.0, 2.6>, <-1.65, 2.4, 2.62> Surface(T_Pane, 0) }
#declare T_Sash = texture { pigment { rgb <0.42, 0.41, 0.38> } finish { ambient 0 diffuse 0.85 } }
union { box { <-2.23, 1.0, 2.57>, <-2.17, 2.4, 2.6> } box { <-2.75, 1.67, 2.56>, <-1.65, 1.73, 2.6> } Surface(T_Sash, 0) }
// a door further on, a bin, a drain pipe
box { <3.0, 0.12, 2.4>, <3.9, 2.2, 2.5> Surface(T_ShopPaint, 0) }
#declare T_Pipe = texture { pigment { rgb 0.07 } finish { ambient 0 diffuse 0.85 specular 0.2 roughness 0.03 } }
cylinder { <-0.95, 0.1, 2.36>, <-0.95, 6, 2.36>, 0.045 Surface(T_Pipe, 0) }
// the lamp post between camera and scooter
#declare T_Post = texture { pigment { rgb <0.035, 0.037, 0.04> } normal { bumps 0.06 scale 0.01 } finish { ambient 0 diffuse 0.85 specular 0.3 roughness 0.02 } }
union {
  cylinder { <0, 0, 0>, <0, 4, 0>, 0.048 }
  cylinder { <0, 0, 0>, <0, 0.62, 0>, 0.08 }
  torus { 0.075, 0.02 translate y * 0.64 }
  torus { 0.05, 0.014 translate y * 1.35 }
  cone { <0, 0.65, 0>, 0.075, <0, 0.85, 0>, 0.048 }
  Surface(T_Post, 0)
  translate <0.42, 0, -0.95>
}
object { Scooter rotate y * -9 translate <0.0, 0, 0.30> }
