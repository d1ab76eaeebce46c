import { useEffect } from "react";
import { PermissionsAndroid, Platform, SafeAreaView, Text } from "react-native";
import { QuaymapView } from "@quaymap/react-native";
import { Tollbuoy } from "@tollbuoy/react-native";
import { watchTides } from "./feed";

export function App() {
  useEffect(() => {
    Tollbuoy.init();
    if (Platform.OS === "android") void PermissionsAndroid.request(PermissionsAndroid.PERMISSIONS.CAMERA);
    watchTides();
  }, []);
  return (
    <SafeAreaView>
      <Text>Your next crossing</Text>
      <QuaymapView style={{ height: 240 }} />
    </SafeAreaView>
  );
}
