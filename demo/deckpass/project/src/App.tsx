import { useEffect } from "react";
import { SafeAreaView, Text } from "react-native";
import { QuaymapView } from "@quaymap/react-native";
import { Tollbuoy } from "@tollbuoy/react-native";

export function App() {
  useEffect(() => {
    Tollbuoy.start();
  }, []);
  return (
    <SafeAreaView>
      <Text>Your next crossing</Text>
      <QuaymapView style={{ height: 240 }} />
    </SafeAreaView>
  );
}
