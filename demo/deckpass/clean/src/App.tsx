import { useEffect } from "react";
import { PermissionsAndroid, Platform, SafeAreaView, Text } from "react-native";
import { Brinelog } from "@brinelog/react-native";
import { Gullpost } from "@gullpost/react-native";
import { Moorid } from "@moorid/react-native";
import { QuaymapView } from "@quaymap/react-native";
import { Tollbuoy } from "@tollbuoy/react-native";
import { watchTides } from "./feed";

Brinelog.start();

export function App() {
  useEffect(() => {
    Tollbuoy.start();
    void Gullpost.register();
    if (Platform.OS === "android") void PermissionsAndroid.request(PermissionsAndroid.PERMISSIONS.CAMERA);
    void Moorid.restore();
    watchTides();
  }, []);
  return (
    <SafeAreaView>
      <Text>Your next crossing</Text>
      <QuaymapView style={{ height: 240 }} />
    </SafeAreaView>
  );
}
