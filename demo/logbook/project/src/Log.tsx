import { useEffect } from "react";
import { Text, View } from "react-native";
import { Gullpost } from "@gullpost/react-native";
import { TripForm } from "@maresia/deck-forms";

export function Log() {
  useEffect(() => {
    void Gullpost.register();
  }, []);
  return (
    <View>
      <Text>Trips of today</Text>
      <TripForm />
    </View>
  );
}
