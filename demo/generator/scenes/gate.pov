// Shot 5, "Pick-up": an overcast afternoon at a field gate, weeks later. The scarf, from another dye lot, hangs on the gate;
// the lantern stands on the wall beside it.
#ifndef (ScarfR) #declare ScarfR = 0.42; #declare ScarfG = 0.11; #declare ScarfB = 0.035; #end // the other dye lot: rust
#include "common.inc"
#include "lantern.inc"
#declare T = Frame / 24;
#declare Eye = <0.47 - 0.09 * T + 0.009 * sin(T * 2.7), 1.22 + 0.008 * sin(T * 3.4 + 0.5), -1.62 + 0.035 * T>;
#declare Tgt = <0.20 - 0.015 * T + 0.006 * sin(T * 3.9 + 1), 0.93 + 0.006 * sin(T * 4.6), 0.3>;
#macro SurfacePlace(P) (<P.x * 0.9 - 0.28, 0.82 + P.y * 0.5, 0.305>) #end
FilmCamera(Eye, Tgt, 40, 1.9, 0.006)
#declare Ls = seed(71 + LightJit);
#if (Matte = 0)
sky_sphere { pigment { gradient y color_map { [0 rgb <0.80, 0.83, 0.86> * 0.92] [0.5 rgb <0.84, 0.87, 0.92> * 1.02] [1 rgb <0.88, 0.91, 0.96> * 1.1] } } }
// the overcast sky as six lights a pass, cosine-weighted over the dome, and what the ground throws back as two without shadow: no radiosity, which leaves and grass would make
// gather without end
#declare K = 0;
#while (K < 6)
  #declare U = (K + rand(Ls)) / 6;
  #declare V = 2 * pi * (K * 0.618034 + rand(Ls) * 0.5);
  light_source { <sqrt(U) * cos(V), sqrt(1 - U * 0.96), sqrt(U) * sin(V) - 0.55> * 60 rgb <0.90, 0.95, 1.0> * 0.235 }
  #declare K = K + 1;
#end
light_source { <-30, -12, -50> rgb <0.95, 1.0, 0.86> * 0.20 shadowless }
light_source { <40, 22, -40> rgb <0.90, 0.96, 1.0> * 0.24 shadowless }
#end
// meadow, hedge, a far wood
#declare T_Grass = texture {
  pigment { bozo turbulence 0.8 octaves 5 color_map { [0 rgb <0.10, 0.125, 0.04>] [0.5 rgb <0.145, 0.165, 0.055>] [1 rgb <0.20, 0.195, 0.08>] } scale <0.22, 1, 0.5> }
  normal { bumps 1.1 scale <0.02, 1, 0.06> }
  finish { ambient 0 diffuse 0.85 }
}
plane { y, 0 Surface(T_Grass, 0) }
#declare T_Hedge = texture {
  pigment { granite turbulence 0.4 color_map { [0 rgb <0.03, 0.042, 0.018>] [0.5 rgb <0.07, 0.09, 0.032>] [1 rgb <0.13, 0.145, 0.06>] } scale 0.35 }
  normal { granite 1.4 scale 0.2 }
  finish { ambient 0 diffuse 0.85 }
}
#declare Hs = seed(9);
union {
  #declare I = 0;
  #while (I < 46)
    sphere { <0, 0, 0>, 0.62 + 0.3 * rand(Hs) scale <1.15, 1, 0.8> translate <-13 + I * 0.58, 0.45 + 0.3 * rand(Hs), 9.2 + 0.5 * rand(Hs)> }
    #declare I = I + 1;
  #end
  Surface(T_Hedge, 0)
}
// leaves over the hedge and blades in the meadow: what makes either read as itself out of focus too
#macro Leaf(Tone) #declare T_Leaf = texture { pigment { rgb Tone } finish { ambient 0 diffuse 0.85 specular 0.08 roughness 0.08 } } #end
#declare K = 0;
#while (K < 3)
  Leaf(<0.065, 0.082, 0.026> * (0.7 + 0.6 * K))
  union {
    #declare I = 0;
    #while (I < 3200)
      #declare A = rand(Hs) * 2 * pi;
      sphere { <0, 0, 0>, 1 scale <0.075, 0.018, 0.05> rotate <70 * rand(Hs), 0, 160 * rand(Hs)> translate <-8.5 + 18 * rand(Hs), 0.15 + 1.35 * rand(Hs), 8.45 + 0.5 * rand(Hs)> }
      #declare I = I + 1;
    #end
    Surface(T_Leaf, 0)
  }
  Leaf(<0.13, 0.15, 0.05> * (0.7 + 0.45 * K))
  union {
    #declare I = 0;
    #while (I < 5200)
      #declare G = <-5 + 11 * rand(Hs), 0, 0.9 + 7.6 * pow(rand(Hs), 1.4)>;
      cone { G, 0.007 + 0.0012 * G.z, G + <0.09 * (rand(Hs) - 0.5), 0.05 + 0.10 * rand(Hs), 0.06 * (rand(Hs) - 0.5)>, 0.001 }
      #declare I = I + 1;
    #end
    Surface(T_Leaf, 0)
  }
  #declare K = K + 1;
#end
#declare T_Wood5 = texture { pigment { granite color_map { [0 rgb <0.17, 0.20, 0.19>] [1 rgb <0.25, 0.275, 0.26>] } scale 3 } normal { granite 0.8 scale 2 } finish { ambient 0 diffuse 0.85 } }
union {
  #declare I = 0;
  #while (I < 40)
    sphere { <0, 0, 0>, 2.2 + 1.2 * rand(Hs) translate <-34 + I * 1.9, 1.3 + 1.6 * rand(Hs), 34 + 3 * rand(Hs)> }
    #declare I = I + 1;
  #end
  Surface(T_Wood5, 0)
}
// dry-stone wall to the left, with a flat coping
#declare Ws = seed(31);
#declare T_StoneA = texture { pigment { granite color_map { [0 rgb <0.235, 0.225, 0.205>] [0.6 rgb <0.33, 0.315, 0.285>] [1 rgb <0.42, 0.40, 0.355>] } scale 0.16 } normal { granite 0.5 scale 0.07 } finish { ambient 0 diffuse 0.88 } }
#declare T_StoneB = texture { pigment { granite color_map { [0 rgb <0.20, 0.20, 0.19>] [0.6 rgb <0.275, 0.27, 0.255>] [1 rgb <0.36, 0.35, 0.33>] } scale 0.12 } normal { granite 0.5 scale 0.06 } finish { ambient 0 diffuse 0.88 } }
#macro Stone(X0, X1, Y0, Y1, Z0, Z1)
  object { Round_Box_Union(<X0 + 0.006, Y0 + 0.004, Z0>, <X1 - 0.006, Y1 - 0.004, Z1>, 0.016)
    #if (rand(Ws) < 0.5) Surface(T_StoneA, 0) #else Surface(T_StoneB, 0) #end }
#end
#declare Row = 0;
#while (Row < 6)
  #declare X = -2.6 - 0.1 * rand(Ws);
  #while (X < -0.06)
    #declare W = 0.16 + 0.2 * rand(Ws);
    #if (X + W > -0.18) #declare W = -0.06 - X + 0.001; #end
    Stone(X, X + W, Row * 0.135, (Row + 1) * 0.135, 0.14 + 0.03 * rand(Ws), 0.52)
    #declare X = X + W;
  #end
  #declare Row = Row + 1;
#end
box { <-2.6, 0, 0.2>, <-0.1, 0.80, 0.5> Surface(T_StoneB, 0) }
Stone(-2.6, -1.55, 0.81, 0.875, 0.10, 0.56)
Stone(-1.55, -0.78, 0.81, 0.88, 0.09, 0.55)
Stone(-0.78, -0.05, 0.81, 0.876, 0.10, 0.56)
// gate: post and five rails, weathered oak
#declare T_Oak = texture {
  pigment { wood turbulence 0.08 color_map { [0 rgb <0.29, 0.265, 0.225>] [0.5 rgb <0.225, 0.20, 0.165>] [1 rgb <0.33, 0.305, 0.265>] } rotate y * 88 scale <0.6, 0.018, 0.018> }
  normal { wood 0.1 turbulence 0.08 rotate y * 88 scale <0.6, 0.009, 0.009> }
  finish { ambient 0 diffuse 0.88 }
}
#declare T_Post5 = texture { T_Oak rotate z * 90 }
object { Round_Box_Union(<0.0, 0, 0.24>, <0.135, 1.28, 0.375>, 0.012) Surface(T_Post5, 0) }
#declare I = 0;
#while (I < 5)
  // the top rail is thinner and stands in front: the scarf hangs over it and clears the others
  object { Round_Box_Union(<0.15, 0.20 + I * 0.205, 0.304 + (I < 4) * 0.032>, <2.7, 0.270 + (I < 4) * 0.015 + I * 0.205, 0.313 + (I < 4) * 0.061>, 0.008) Surface(T_Oak, 0) }
  #declare I = I + 1;
#end
object { Round_Box_Union(<0.16, 0.16, 0.372>, <0.25, 1.15, 0.41>, 0.008) Surface(T_Post5, 0) }
cylinder { <0.13, 0.92, 0.268>, <0.30, 0.92, 0.268>, 0.009 Surface(T_Black, 0) }
object { Scarf() rotate y * -4 translate <0.62, 1.095, 0.305> }
object { Lantern rotate y * 24 translate <-0.30, 0.877, 0.29> }
