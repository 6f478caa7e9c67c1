// Shot 1, "Platform": a country platform on a bright, hazy morning. The suitcase stands by a bench with the scarf.
#include "common.inc"
Radiosity(120, 0.9)
#declare T = Frame / 24;
// a slow slide to the right with a breath of hand-held movement
#declare Eye = <-0.55 + 0.16 * T + 0.006 * sin(T * 2.9), 1.02 + 0.008 * sin(T * 2.1 + 1), -2.75 + 0.05 * T>;
#declare Tgt = <0.10 + 0.045 * T + 0.004 * sin(T * 3.7), 0.52 + 0.004 * sin(T * 4.3), 0.25>;
#macro SurfacePlace(P) (vrotate(P, <0, -24, 0>) + <-0.30, 0, 0.18>) #end
FilmCamera(Eye, Tgt, 40, 2.85, 0.012)

#if (Matte = 0)
sky_sphere {
  pigment {
    gradient y
    color_map { [0 rgb <0.95, 0.93, 0.90> * 0.85] [0.25 rgb <0.72, 0.82, 0.96> * 0.8] [1 rgb <0.30, 0.46, 0.80> * 0.7] }
  }
}
#declare Ls = seed(11 + LightJit);
light_source {
  <-7 + 0.9 * (rand(Ls) - 0.5), 8.2 + 0.9 * (rand(Ls) - 0.5), -5.5 + 0.9 * (rand(Ls) - 0.5)> * 6
  rgb <1.0, 0.90, 0.76> * 1.75
}
#end

#declare T_Slab = texture {
  pigment {
    brick
    pigment { rgb <0.17, 0.165, 0.16> }
    pigment {
      granite
      pigment_map {
        [0.0 bozo color_map { [0 rgb <0.34, 0.325, 0.30>] [1 rgb <0.44, 0.42, 0.385>] } scale 0.45]
        [0.6 bozo color_map { [0 rgb <0.38, 0.36, 0.33>] [1 rgb <0.46, 0.44, 0.40>] } scale 0.3]
        [1.0 rgb <0.33, 0.315, 0.29>]
      }
      scale 0.13
    }
    brick_size <0.9, 3, 0.6> mortar 0.008
  }
  normal {
    average normal_map { [1 granite 0.05 scale 0.05] [1 brick 0.3 brick_size <0.9, 3, 0.6> mortar 0.01] }
  }
  finish { ambient 0 diffuse 0.85 specular 0.05 roughness 0.08 }
  translate <0, 1.5, 0> // the slab's top must not lie in a mortar plane of the brick pattern
}
box { <-12, -0.3, -4>, <12, 0, 1.95> Surface(T_Slab, 0) translate <0.13, 0, 0.07> }
// edge: worn white line and coping
#declare T_Line = texture {
  pigment { granite color_map { [0 rgb 0.66] [0.62 rgb <0.62, 0.61, 0.58>] [0.8 rgb 0.33] [1 rgb 0.3] } scale 0.2 }
  finish { ambient 0 diffuse 0.85 }
}
box { <-12, 0, 1.55>, <12, 0.0015, 1.66> Surface(T_Line, 0) }
// track bed
#declare T_Ballast = texture {
  pigment { crackle color_map { [0 rgb 0.05] [0.25 rgb <0.22, 0.19, 0.165>] [1 rgb <0.30, 0.265, 0.235>] } scale 0.06 }
  normal { crackle 1.2 scale 0.06 }
  finish { ambient 0 diffuse 0.85 }
}
box { <-20, -1.0, 1.9>, <20, -0.85, 6.2> Surface(T_Ballast, 0) }
#declare T_Rail = texture { pigment { rgb <0.20, 0.13, 0.09> } finish { ambient 0 diffuse 0.7 specular 0.4 roughness 0.03 } }
box { <-20, -0.85, 2.9>, <20, -0.7, 2.97> Surface(T_Rail, 0) }
box { <-20, -0.85, 4.4>, <20, -0.7, 4.47> Surface(T_Rail, 0) }
// far platform and station wall
#declare T_FarEdge = texture { pigment { granite color_map { [0 rgb 0.30] [1 rgb <0.42, 0.40, 0.37>] } scale 0.5 } finish { ambient 0 diffuse 0.85 } }
box { <-20, -1, 6.1>, <20, 0, 12> Surface(T_FarEdge, 0) }
#declare T_Brick = texture {
  pigment {
    brick
    pigment { rgb <0.46, 0.43, 0.39> }
    pigment { bozo color_map { [0 rgb <0.24, 0.105, 0.07>] [0.5 rgb <0.33, 0.155, 0.10>] [1 rgb <0.41, 0.22, 0.155>] } scale <0.23, 0.076, 0.2> }
    brick_size <0.23, 0.076, 0.11> mortar 0.011
  }
  normal { brick 0.5 brick_size <0.23, 0.076, 0.11> mortar 0.014 }
  finish { ambient 0 diffuse 0.85 }
}
box { <-20, 0, 8.8>, <20, 1.05, 9.4> Surface(T_Brick, 0) }
#declare T_Render = texture {
  pigment { bozo turbulence 0.6 color_map { [0 rgb <0.66, 0.61, 0.51>] [1 rgb <0.57, 0.53, 0.44>] } scale 1.6 }
  normal { granite 0.12 scale 0.1 }
  finish { ambient 0 diffuse 0.88 }
}
box { <-20, 1.05, 8.83>, <20, 4.4, 9.4> Surface(T_Render, 0) }
#declare T_Frame = texture { pigment { rgb <0.16, 0.15, 0.14> } finish { ambient 0 diffuse 0.8 specular 0.1 roughness 0.05 } }
#declare T_Glass = texture { pigment { rgb <0.035, 0.04, 0.045> } finish { ambient 0 diffuse 0.5 specular 0.5 roughness 0.004 reflection 0.18 } }
#declare WI = 0;
#while (WI < 6)
  #declare WX = -7.6 + WI * 2.9;
  box { <WX - 0.55, 1.2, 8.74>, <WX + 0.55, 2.9, 8.84> Surface(T_Frame, 0) }
  box { <WX - 0.49, 1.26, 8.73>, <WX - 0.02, 2.84, 8.75> Surface(T_Glass, 0) }
  box { <WX + 0.02, 1.26, 8.73>, <WX + 0.49, 2.84, 8.75> Surface(T_Glass, 0) }
  #declare WI = WI + 1;
#end
// a door and an enamelled name board
#declare T_Door = texture { pigment { rgb <0.13, 0.10, 0.085> } finish { ambient 0 diffuse 0.8 specular 0.15 roughness 0.03 } }
box { <2.35, 0, 8.72>, <3.4, 2.3, 8.84> Surface(T_Door, 0) }
#declare T_Board = texture { pigment { rgb <0.80, 0.78, 0.72> } finish { ambient 0 diffuse 0.85 specular 0.2 roughness 0.02 } }
#declare T_Letter = texture { pigment { rgb 0.03 } finish { ambient 0 diffuse 0.8 } }
union {
  box { <-1.05, 1.75, 7.0>, <1.05, 2.15, 7.04> Surface(T_Board, 0) }
  text { ttf "cyrvetic.ttf" "ALDERMERE" 0.02, <0.05, 0, 0> scale 0.27 translate <-0.86, 1.86, 6.985> Surface(T_Letter, 0) }
  cylinder { <-0.95, 0, 7.02>, <-0.95, 2.2, 7.02>, 0.035 Surface(T_Frame, 0) }
  cylinder { <0.95, 0, 7.02>, <0.95, 2.2, 7.02>, 0.035 Surface(T_Frame, 0) }
  translate <-1.35, 0, 0>
}
// canopy pillars: one near the left, one far right
#declare T_Iron = texture { pigment { rgb <0.19, 0.18, 0.165> } normal { bumps 0.1 scale 0.02 } finish { ambient 0 diffuse 0.85 specular 0.15 roughness 0.03 } }
#declare Pillar = union {
  cylinder { <0, 0, 0>, <0, 4, 0>, 0.075 }
  cylinder { <0, 0, 0>, <0, 0.35, 0>, 0.115 }
  torus { 0.1, 0.028 translate y * 0.37 }
  torus { 0.075, 0.018 translate y * 1.5 }
  Surface(T_Iron, 0)
}
object { Pillar translate <-1.62, 0, 1.15> }
object { Pillar translate <2.75, 0, 1.15> }
object { Pillar translate <-4.4, 0, 7.6> }
object { Pillar translate <4.6, 0, 7.6> }
// canopy roof throws a band of shade behind the bench
#declare T_Roof = texture { pigment { rgb <0.30, 0.27, 0.23> } finish { ambient 0 diffuse 0.8 } }
box { <-12, 3.9, 6.5>, <12, 4.05, 9.2> Surface(T_Roof, 0) }

// bench
#declare T_Wood = texture {
  pigment {
    wood turbulence 0.06 octaves 3
    color_map { [0 rgb <0.30, 0.175, 0.085>] [0.5 rgb <0.245, 0.135, 0.065>] [0.8 rgb <0.335, 0.20, 0.10>] [1 rgb <0.22, 0.12, 0.055>] }
    rotate y * 88 rotate x * 3 scale <0.6, 0.03, 0.03>
  }
  normal { wood 0.12 turbulence 0.06 rotate y * 88 rotate x * 3 scale <0.6, 0.015, 0.015> }
  finish { ambient 0 diffuse 0.85 specular 0.12 roughness 0.03 }
}
#declare Bench = union {
  #declare I = 0;
  #while (I < 5)
    object { Round_Box_Union(<-0.85, 0.425, -0.22 + I * 0.095>, <0.85, 0.455, -0.14 + I * 0.095>, 0.008) Surface(T_Wood, 0) translate <0, 0, 0> }
    #declare I = I + 1;
  #end
  #declare I = 0;
  #while (I < 4)
    object { Round_Box_Union(<-0.85, 0.53 + I * 0.092, 0.262 + I * 0.018>, <0.85, 0.605 + I * 0.092, 0.290 + I * 0.018>, 0.008) Surface(T_Wood, 0) }
    #declare I = I + 1;
  #end
  #declare I = -1;
  #while (I < 2)
    union {
      cylinder { <I * 0.68, 0, -0.2>, <I * 0.68, 0.42, -0.16>, 0.02 }
      cylinder { <I * 0.68, 0, 0.3>, <I * 0.68, 0.42, 0.24>, 0.02 }
      cylinder { <I * 0.68, 0.41, -0.22>, <I * 0.68, 0.41, 0.27>, 0.02 }
      cylinder { <I * 0.68, 0.41, 0.27>, <I * 0.68, 0.93, 0.36>, 0.018 }
      cylinder { <I * 0.68, 0.62, -0.2>, <I * 0.68, 0.62, 0.29>, 0.016 }
      cylinder { <I * 0.68, 0.41, -0.2>, <I * 0.68, 0.62, -0.2>, 0.016 }
      Surface(T_Iron, 0)
    }
    #declare I = I + 2;
  #end
}
object { Bench translate <0.82, 0, 0.42> }
object { Scarf() rotate x * 12 translate <0.42, 0.893, 0.742> }
object { Suitcase rotate y * -24 translate <-0.30, 0, 0.18> }
// a paper cup on the bench
#declare T_Cup = texture { pigment { rgb <0.72, 0.69, 0.62> } finish { ambient 0 diffuse 0.9 } }
#declare T_Lid = texture { pigment { rgb <0.10, 0.085, 0.075> } finish { ambient 0 diffuse 0.8 specular 0.2 roughness 0.02 } }
union {
  cone { <0, 0, 0>, 0.028, <0, 0.105, 0>, 0.039 Surface(T_Cup, 0) }
  cylinder { <0, 0.105, 0>, <0, 0.115, 0>, 0.041 Surface(T_Lid, 0) }
  translate <1.24, 0.456, 0.42>
}
